"""Sums about lumber."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core.checks import Count, Model, Positive
from drylamp.core.sums.registry import quick_sum

CUBIC_M_PER_BOARD_FOOT = 0.0254**3 * 144


class WoodMcIn(Model):
    """A sample before and after the oven."""

    wet_kg: Positive
    dry_kg: Positive

    @model_validator(mode="after")
    def _dries(self) -> WoodMcIn:
        if self.dry_kg > self.wet_kg:
            raise ValueError(f"dry_kg {self.dry_kg:g} is above wet_kg {self.wet_kg:g}; swap the two")
        return self


class WoodMc(Model):
    """Moisture of wood."""

    mc_dry: float


@quick_sum(
    "wood-mc", "Moisture of a wood sample", "wood moisture oven dry sample section",
    "(wet − dry)/dry", "ASTM D4442 (definition)", WoodMcIn, WoodMc,
)  # fmt: skip
def wood_mc(given: WoodMcIn) -> WoodMc:
    """Moisture content on dry basis."""
    return WoodMc(mc_dry=given.wet_kg / given.dry_kg - 1)


class BoardFeetIn(Model):
    """Boards by their nominal size."""

    thickness_in: Positive
    width_in: Positive
    length_ft: Positive
    count: Annotated[Count, Field(ge=1, le=100000)] = 1


class BoardFeet(Model):
    """Volume of boards."""

    board_feet: float
    volume_m3: float


@quick_sum(
    "board-feet", "How much lumber it is", "board feet lumber volume stack",
    "thickness × width × length / 12", "definition (144 cubic inches)", BoardFeetIn, BoardFeet,
)  # fmt: skip
def board_feet(given: BoardFeetIn) -> BoardFeet:
    """Board feet and cubic metres."""
    feet = given.thickness_in * given.width_in * given.length_ft / 12 * given.count
    return BoardFeet(board_feet=feet, volume_m3=feet * CUBIC_M_PER_BOARD_FOOT)
