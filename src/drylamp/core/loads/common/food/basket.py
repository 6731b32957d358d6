"""From a basket to jars: what is prepared of it, the trays that it takes, the water that has to go, what is left to keep."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.checks import require
from drylamp.core.tables import Produce

JAR_KG_M3 = {"fruit": 450.0, "vegetable": 200.0, "leaf": 80.0, "mushroom": 120.0, "meat": 500.0}
"""Dried food as it lies in a jar, by group; from memory."""


@dataclass(frozen=True)
class Basket:
    """A food on its way into jars.

    Attributes:
        fresh_kg, prepared_kg: as picked, and without peel, core, stones or stems
        tray_m2: that it takes in one layer
        water_kg: to be dried out of it
        dried_kg, jars_l: what is left at its safe moisture
        minutes: of preparing it
    """

    fresh_kg: float
    prepared_kg: float
    tray_m2: float
    water_kg: float
    dried_kg: float
    jars_l: float
    minutes: float


def of_kilograms(row: Produce, fresh_kg: float) -> Basket:
    """Of so much as picked.

    Raises
    ------
    InputProblem
        there is none.
    """
    require(fresh_kg > 0.0, "fresh_kg", f"{fresh_kg:g} kg was given; allowed is above 0")
    prepared = fresh_kg * (1.0 - row.waste_share)
    dried = prepared * (1.0 - row.fresh_wb) / (1.0 - row.safe_wb)
    return Basket(
        fresh_kg=fresh_kg, prepared_kg=prepared, tray_m2=prepared / row.load_kg_m2, water_kg=prepared - dried, dried_kg=dried, jars_l=1000.0 * dried / JAR_KG_M3[row.group],
        minutes=fresh_kg * row.prepare_min_kg,
    )  # fmt: skip


def of_bucket(row: Produce, litres: float) -> Basket:
    """Of so many litres of bucket, as it lies in it."""
    require(litres > 0.0, "litres", f"{litres:g} litres were given; allowed is above 0")
    return of_kilograms(row, litres * row.bulk_kg_m3 / 1000.0)


def fits_m2(row: Produce, tray_m2: float) -> Basket:
    """As much as trays of an area hold in one layer."""
    require(tray_m2 > 0.0, "tray_m2", f"{tray_m2:g} m² was given; allowed is above 0")
    return of_kilograms(row, tray_m2 * row.load_kg_m2 / (1.0 - row.waste_share))
