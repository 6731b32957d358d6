"""What is asked of food on trays: when it will be dry, how to spend the night, how much a week, what goes on the trays, which vent."""

from __future__ import annotations

from datetime import datetime

from drylamp.core.checks import Model
from drylamp.core.text import Sentence


class TrayChance(Model):
    """A tray over several made-up weeks: hours until it is dry, early, middling and late, and in how many of them it is; moisture by the time under a usual sky.

    ``hours`` are none where it is not dry by the end.
    """

    title: str
    target_kg: float
    likely_h: float | None
    early_h: float | None
    late_h: float | None
    chance: float
    moisture_wb: list[float | None]
    done_at: datetime | None


class BatchAhead(Model):
    """A batch over some days: under a usual sky, and by chance."""

    times: list[datetime]
    trays: list[TrayChance]
    days: int
    chance: float
    mould_chance: float
    words: Sentence


class NightWay(Model):
    """A way to spend the nights, and what comes of it: hours to dry, water taken back, share of the way to mould."""

    night: str
    title: str
    hours: float | None
    regained_g: float
    mould_share: float


class NightWays(Model):
    """All of them."""

    ways: list[NightWay]
    words: Sentence


class WeekMonth(Model):
    """A month: days that a batch takes, and kilograms laid in a week; none where it does not dry within a week."""

    month: int
    days: float | None
    kg_week: float


class WeekYear(Model):
    """The year, and the size for so much a week in a month: so many times this dryer.

    Attributes:
        times: none where it does not dry at all in that month
    """

    months: list[WeekMonth]
    wanted_kg: float
    month: int
    times: float | None
    collector_m2: float | None
    trays: int | None
    words: Sentence


class BasketAnswer(Model):
    """A basket on its way into jars, by this dryer's trays."""

    food: str
    fresh_kg: float
    prepared_kg: float
    tray_m2: float
    trays: float
    fillings: int
    water_kg: float
    dried_kg: float
    jars_l: float
    hours: float
    storage_months: float
    feel: str
    words: Sentence


class VentPoint(Model):
    """An opening of the vent: warmest air into the trays, air by day in m³/h and in changes of all that the dryer holds, and how well it dries, in the load's measure."""

    open_share: float
    into_trays_c: float
    flow_m3_h: float
    changes_h: float
    dries: float
    hours: float | None


class VentCurve(Model):
    """Openings, the best for speed, and the one that comes nearest to a wanted temperature."""

    points: list[VentPoint]
    best_share: float
    wanted_c: float
    for_wanted_share: float
    flat_from: float
    flat_to: float
    words: Sentence
