"""Sums about lumber."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from drylamp.core.checks import Count, Fraction, Model, NotNegative, Number, Positive
from drylamp.core.loads.common import wood
from drylamp.core.sums.registry import quick_sum
from drylamp.core.tables import species

CUBIC_M_PER_BOARD_FOOT = 0.0254**3 * 144
SQUARE_M_PER_SQUARE_FOOT = 0.3048**2
BOARD_FEET_PER_SQUARE_FOOT = 10.0

SPECIES = Field(json_schema_extra={"examples": list(species())})


class OfSpecies(Model):
    """A sum about one kind of wood."""

    species: wood.WoodName = SPECIES


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


class WoodEmcIn(Model):
    """Air that wood stands in."""

    temperature_c: Annotated[Number, Field(ge=-1, le=132)]
    rh: Fraction


class WoodEmc(Model):
    """Moisture that wood comes to."""

    emc: float


@quick_sum(
    "wood-emc", "What moisture wood comes to in this air", "wood equilibrium moisture emc air humidity kiln",
    "EMC = 18/W [K h/(1 − K h) + (K₁ K h + 2 K₁ K₂ K² h²)/(1 + K₁ K h + K₁ K₂ K² h²)]",
    "Hailwood & Horrobin 1946; coefficients: USDA Forest Products Laboratory, Wood Handbook ch. 4", WoodEmcIn, WoodEmc,
)  # fmt: skip
def wood_emc(given: WoodEmcIn) -> WoodEmc:
    """Equilibrium moisture content, a fraction of the dry mass."""
    return WoodEmc(emc=wood.equilibrium_mc(given.temperature_c, given.rh))


class SampleBoardIn(Model):
    """Sections cut beside a sample board, and the board itself, green and now."""

    section_wet_kg: Positive
    section_dry_kg: Positive
    board_start_kg: Positive
    board_now_kg: Positive

    @model_validator(mode="after")
    def _dries(self) -> SampleBoardIn:
        if self.section_dry_kg > self.section_wet_kg:
            raise ValueError(
                f"section_dry_kg {self.section_dry_kg:g} is above section_wet_kg {self.section_wet_kg:g}; swap the two"
            )
        dry = self.board_start_kg * self.section_dry_kg / self.section_wet_kg
        if self.board_now_kg < dry * 0.995:
            raise ValueError(
                f"board_now_kg {self.board_now_kg:g} is below the board's dry weight of {dry:.3g} kg; weigh the board or the sections again"
            )
        return self


class SampleBoard(Model):
    """Where the board stands."""

    section_mc: float
    board_dry_kg: float
    board_mc: float


@quick_sum(
    "sample-board", "Where a sample board stands", "sample board kiln section oven dry weight moisture",
    "dry = start/(1 + section mc); mc = now/dry − 1",
    "Dry Kiln Operator's Manual (USDA Agriculture Handbook 188), ch. 6; ASTM D4442", SampleBoardIn, SampleBoard,
)  # fmt: skip
def sample_board(given: SampleBoardIn) -> SampleBoard:
    """Moisture of the sections, the board's dry weight, and its moisture now."""
    section = given.section_wet_kg / given.section_dry_kg - 1
    dry = given.board_start_kg / (1 + section)
    return SampleBoard(section_mc=section, board_dry_kg=dry, board_mc=given.board_now_kg / dry - 1)


class ShrinkageIn(OfSpecies):
    """A board between two moistures."""

    from_mc: NotNegative
    to_mc: NotNegative
    width_mm: Positive
    cut: Literal["flat", "quarter"]


class Shrinkage(Model):
    """Change of width; negative when it shrinks."""

    change_mm: float
    change_fraction: float


@quick_sum(
    "shrinkage", "How much a board shrinks or swells", "shrink swell board width moisture flat quarter sawn",
    "change = S (to − from)/0.30 below fibre saturation; S tangential for flat-sawn, radial for quarter-sawn",
    "USDA Forest Products Laboratory, Wood Handbook ch. 4, table 4-3 (values from memory)", ShrinkageIn, Shrinkage,
)  # fmt: skip
def shrinkage(given: ShrinkageIn) -> Shrinkage:
    """Change of width in mm and as a share of the width."""
    share = wood.shrinkage_fraction(wood.wood(given.species), given.from_mc, given.to_mc, given.cut)
    return Shrinkage(change_mm=share * given.width_mm, change_fraction=share)


class MeterIn(OfSpecies):
    """A meter's reading."""

    reading_mc: Annotated[Number, Field(ge=0, le=0.6)]
    wood_c: Annotated[Number, Field(ge=-20, le=90)] = 20.0
    meter: Literal["pin", "pinless"] = "pin"
    set_to: wood.SetTo | None = Field(default=None, description="Species the meter was set to; default: the wood's own")


class Meter(Model):
    """What the wood holds."""

    mc: float


def _meter_source(given: MeterIn) -> str:
    if given.meter == "pinless":
        return f"reading × specific gravity set / specific gravity of {given.species}: common practice, no source; values from memory"
    return (
        f"temperature: Pfaff & Garrahan 1986, from memory, against 20 °C; species: straight line from {given.set_to or given.species} "
        f"to {given.species} by way of Douglas-fir, order of size from memory"
    )


@quick_sum(
    "meter-correction", "What a moisture meter really says", "moisture meter pin pinless correction species temperature",
    "pin: temperature, then species; pinless: reading × density set / density of the wood",
    "pin: Pfaff & Garrahan 1986; pinless: common practice, no source (values from memory)", MeterIn, Meter, _meter_source,
)  # fmt: skip
def meter_correction(given: MeterIn) -> Meter:
    """Moisture content behind a meter's reading."""
    kind = wood.wood(given.species)
    set_to = wood.wood(given.set_to, "set_to") if given.set_to else kind
    if given.meter == "pinless":
        return Meter(mc=wood.pinless_meter_mc(given.reading_mc, kind, set_to))
    return Meter(mc=wood.pin_meter_mc(given.reading_mc, kind, set_to, given.wood_c))


class KilnSizeIn(Model):
    """A charge."""

    board_feet: Positive
    thickness_in: Positive = 1.0


class KilnSize(Model):
    """Glazed area it wants."""

    collector_m2: float
    collector_ft2: float


@quick_sum(
    "kiln-size", "How much glazing a kiln wants", "kiln size collector glazing area board feet charge",
    "1 ft² per 10 board feet; below 1 inch per 10 × thickness", "common practice, no source", KilnSizeIn, KilnSize,
)  # fmt: skip
def kiln_size(given: KilnSizeIn) -> KilnSize:
    """Collector area by the rule of the trade; thin boards dry faster and want more of it."""
    feet = given.board_feet / (BOARD_FEET_PER_SQUARE_FOOT * min(given.thickness_in, 1.0))
    return KilnSize(collector_m2=feet * SQUARE_M_PER_SQUARE_FOOT, collector_ft2=feet)


class SafeRateIn(OfSpecies):
    """Boards in a kiln."""

    thickness_in: Annotated[Number, Field(gt=0, le=6)]


class SafeRate(Model):
    """How fast they may dry."""

    max_mc_loss_per_day: float


@quick_sum(
    "safe-rate", "How fast boards may dry", "safe drying rate checks daily loss species thickness kiln",
    "rate₁ thickness^log₂(rate₂/rate₁), rates at 1 and 2 inches",
    "USDA Forest Service, Drying Hardwood Lumber (FPL-GTR-118), rates from memory", SafeRateIn, SafeRate,
)  # fmt: skip
def safe_rate(given: SafeRateIn) -> SafeRate:
    """Most moisture content to lose in a day, as a fraction of the dry mass."""
    return SafeRate(max_mc_loss_per_day=wood.safe_loss_per_day(wood.wood(given.species), given.thickness_in))


class WaterInBoardsIn(OfSpecies):
    """A charge between two moistures."""

    volume_m3: Positive
    from_mc: NotNegative
    to_mc: NotNegative


class WaterInBoards(Model):
    """What must be driven off (negative where it takes water up)."""

    water_kg: float
    latent_mj: float


@quick_sum(
    "water-in-boards", "How much water a charge holds", "water boards charge kiln evaporate latent heat",
    "water = basic specific gravity × 1000 × volume × (from − to); × 2.38 MJ/kg",
    "Wood Handbook ch. 4 (values from memory); latent heat at 50 °C, CoolProp", WaterInBoardsIn, WaterInBoards,
)  # fmt: skip
def water_in_boards(given: WaterInBoardsIn) -> WaterInBoards:
    """Kilograms of water between two moistures, and the heat to boil them off as vapour."""
    density = wood.wood(given.species).basic_specific_gravity * 1000
    water = density * given.volume_m3 * (given.from_mc - given.to_mc)
    return WaterInBoards(water_kg=water, latent_mj=water * wood.DRYING_LATENT_J_KG / 1e6)
