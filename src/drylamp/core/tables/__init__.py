"""Materials and substances: one CSV per family, one row per entry, each row with its source."""

from __future__ import annotations

import csv
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Annotated, Literal, TypeVar

from pydantic import AfterValidator, Discriminator, Field, Tag, model_validator

from drylamp.core.checks import Fraction, Model, NotNegative, Number, Positive, YesNo, unknown_name
from drylamp.languages.tables import row_in_words

NAME = Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=60)]


class Row(Model):
    """What every row of every table carries, a user's own materials included."""

    name: NAME = Field(title="Short name", description="Lower-case words joined by hyphens")
    title: Annotated[str, Field(min_length=1, max_length=80)] = Field(title="What you call it")
    top_service_c: Annotated[Number, Field(ge=20, le=2000)] = Field(
        title="Lasts to", description="Highest temperature it lasts at"
    )
    food_safe: YesNo = Field(
        title="fit near food", description="May stand near food in a hot box once cured and aired out"
    )
    price_m2: NotNegative = Field(title="Price", description="New, of a square metre; 0 for salvage")
    source: Annotated[str, Field(min_length=1, max_length=300)] = Field(
        title="Where the numbers come from", description="Maker's sheet, measured, guessed …"
    )


class Absorber(Row):
    """A surface that takes up sun and gives off long-wave heat."""

    absorptance: Fraction = Field(title="Takes up of the sun, 0–1")
    emittance: Fraction = Field(title="Gives off of a black body's heat, 0–1")
    absorptance_doubt: Fraction = Field(
        default=0.0, title="± of what it takes up", description="0: as in the table; of samples of one's own what their readings leave open"
    )  # fmt: skip

    def at(self, absorptance: float) -> Absorber:
        """The same taking up another share."""
        return self.model_copy(update={"absorptance": min(max(absorptance, 0.0), 1.0)})


class Cover(Row):
    """A sheet that lets the sun in; the price is for the usual thickness."""

    index: Annotated[Number, Field(ge=1, le=2.5)] = Field(title="Refractive index")
    extinction_per_m: NotNegative = Field(title="Extinction, 1/m")
    longwave_transmittance: Fraction = Field(title="Lets long-wave through, 0–1")
    emittance: Fraction = Field(title="Emittance, 0–1")
    density_kg_m3: Positive
    cp_j_kgk: Positive
    conductivity_w_mk: Positive
    usual_thickness_m: Annotated[Number, Field(gt=0, le=0.05)] = Field(title="Thickness of a skin")
    skins: Annotated[Number, Field(ge=1, le=2)] = Field(
        default=1, title="Skins, 1 or 2", description="2 for twin-wall sheets"
    )
    skin_gap_m: Annotated[Number, Field(ge=0, le=0.1)] = Field(default=0, title="Gap between skins")
    rib_factor: Annotated[Number, Field(ge=1, le=5)] = Field(
        default=1, title="Ribs, times the air", description="What ribs and air between two skins carry, over that of the air alone"
    )  # fmt: skip

    @model_validator(mode="after")
    def _adds_up(self) -> Cover:
        if self.longwave_transmittance + self.emittance > 1:
            raise ValueError(
                f"longwave_transmittance {self.longwave_transmittance:g} and emittance {self.emittance:g} come to more than 1; "
                "what is neither passed on nor taken up is thrown back, so give less"
            )
        if (self.skins > 1) != (self.skin_gap_m > 0):
            raise ValueError("a sheet of two skins needs skin_gap_m above 0, a sheet of one skin has none")
        return self


class Mirror(Row):
    """A surface that throws the sun on."""

    reflectance: Fraction = Field(title="Throws on, 0–1", description="Mirrored on, not scattered")
    kg_m2: NotNegative = Field(default=1.0, title="Weighs, a square metre", description="Backing and all")
    slope_error_mrad: Annotated[Number, Field(ge=0, le=100)] = Field(
        default=0,
        title="Slope error, mrad",
        description="How far its normal strays from the true one, standard deviation",
    )


class Layer(Row):
    """Something a wall is made of; the price is for the usual thickness."""

    emittance: Fraction = Field(default=0.9, title="Emittance of its face, 0–1")
    is_gap: YesNo = Field(
        default=False, title="a gap of air", description="Its emittance is that of its better face, the other's is 0.9"
    )
    conductivity_w_mk: Positive
    density_kg_m3: Positive
    cp_j_kgk: Positive
    usual_thickness_m: Positive


class Thing(Model):
    """Something a build is put together from that is neither sheet nor paint: so much a piece, a metre or a square metre."""

    name: str
    title: str
    by: Literal["piece", "bar", "metre", "square-metre"] = Field(
        description="A bar is cut from lengths, what goes by the metre comes off a roll"
    )
    price: NotNegative
    kg: NotNegative
    hours: NotNegative = Field(description="To fit it")
    source: str


class Food(Model):
    """Something that goes into the pot."""

    name: str
    title: str
    cp_j_kgk: Positive
    density_kg_m3: Positive
    target_c: Number
    hold_minutes: NotNegative
    conductivity_w_mk: NotNegative = Field(description="Of pieces that do not stir themselves; 0 for what does")
    piece_m: NotNegative = Field(description="Thickness of a piece; 0 for what stirs itself")
    handling: Literal["all-in", "stir", "flip"] | None = Field(description="What it wants done while it cooks")
    water_share: Fraction = Field(description="Water in it, of its weight as it stands in the pot")
    film_w_m2k: NotNegative = Field(
        description="From the pot's wall to it where it is thick or lies in pieces; 0: it stirs itself as water does"
    )
    crust_share: Annotated[Number, Field(ge=0, lt=1)] = Field(
        description="Share of it that becomes crust; 0 for what has none"
    )
    safe_core_c: NotNegative = Field(description="Core temperature that makes it safe; 0 where none is published")
    water_per_kg: NotNegative = Field(
        description="Water that a kilogram of it, raw and dry, is cooked with, kg; 0 for what is weighed as it is; common practice, no source"
    )
    kg_each: Positive = Field(description="Cooked, for a person; common practice, no source")
    source: str


Group = Literal["fruit", "vegetable", "leaf", "mushroom", "meat"]


class Produce(Model):
    """A food as it is cut to be dried: its water as the kitchen says it (share of the whole), how it is laid and when it is done."""

    name: str
    title: str
    group: Group
    fresh_wb: Fraction = Field(description="Share of water, fresh")
    safe_wb: Fraction = Field(description="Share of water, dry enough to keep")
    cut: Literal["slices", "halves", "strips", "pieces", "pitted", "whole", "leaves", "on-stem"]
    thick_m: Positive
    open_sides: Annotated[Number, Field(ge=1, le=2)] = Field(description="1 where a skin shuts the other")
    low_c: Number = Field(description="Drying air that suits it, from")
    high_c: Number = Field(description="To; above it browns or loses its scent")
    load_kg_m2: Positive = Field(description="Prepared, on a tray")
    waste_share: Fraction = Field(description="Peel, core, stones, stems")
    bulk_kg_m3: Positive = Field(description="As it comes in the bucket")
    storage_months: Positive
    prepare_min_kg: Positive
    feel: str = Field(description="When it is done, by hand")
    source: str

    @model_validator(mode="after")
    def _dries(self) -> Produce:
        if self.safe_wb >= self.fresh_wb:
            raise ValueError(
                f"safe_wb {self.safe_wb:g} is not below fresh_wb {self.fresh_wb:g}; it would be dry before it is put in"
            )
        return self


class Vessel(Model):
    """A pot, tin or jar: its wall, and the valve of one that is shut tight."""

    name: str
    title: str
    finish: str
    wall_kg_m2: Positive = Field(description="Mass by area of wall, lid included")
    cp_j_kgk: Positive
    wall_w_m2k: Positive = Field(
        description="From its outer face to its inner one: what it is made of over its thickness"
    )
    valve_c: NotNegative = Field(
        description="Temperature at which the valve of a pressure pot lets go; 0 for the others"
    )
    lid: Literal["black", "clear", "none"]
    source: str


class Contact(Model):
    """How something stands on what is under it: heat passed there, and the range that a careful guess leaves."""

    name: str
    title: str
    w_m2k: Positive
    low_w_m2k: Positive
    high_w_m2k: Positive
    source: str


class Sweet(Model):
    """A small thing that softens, melts and browns."""

    name: str
    title: str
    cp_j_kgk: Positive
    density_kg_m3: Positive
    soft_c: Number
    melting_low_c: Number
    melting_high_c: Number
    latent_j_kg: Positive
    browns_c: Number
    absorptance: Fraction
    thickness_m: Positive
    conductivity_w_mk: Positive
    source: str


class Species(Model):
    """A kind of wood. Shrinkage is from green to oven-dry; rates are fractions of moisture content per day."""

    name: str
    title: str
    basic_specific_gravity: Positive = Field(description="Oven-dry mass over green volume, against water")
    radial_shrinkage: Fraction
    tangential_shrinkage: Fraction
    green_heart_mc: Annotated[Number, Field(gt=0.2, le=3)] = Field(
        description="Moisture of fresh heartwood; of sapwood the next"
    )
    green_sap_mc: Annotated[Number, Field(gt=0.2, le=3)]
    diffusion_m2_s: Positive | None = Field(
        description="Of water across the grain at 60 °C and fibre saturation; calibrated by scripts/calibrate_boards, or as a species like it"
    )
    safe_1in_per_day: Positive | None
    safe_2in_per_day: Positive | None
    pin_slope: Positive = Field(description="Of a pin meter's reading against Douglas-fir")
    pin_offset: Number
    source: str


class Timber(Model):
    """Timber that stands at the ground: years until it is weak there, untreated."""

    name: NAME
    title: str
    ground_years: Positive
    source: str


class Wax(Model):
    """A wax, fat or the like that melts."""

    name: str
    title: str
    cp_j_kgk: Positive
    melting_c: Number
    melting_low_c: Number
    melting_high_c: Number
    latent_j_kg: Positive
    density_kg_m3: Positive
    absorptance: Fraction = Field(description="Of the pieces, with what sticks to them")
    discolours_c: Number
    flash_c: Number
    source: str


class Pipe(Model):
    """What hoses and pipes are made of; the price is for a metre of about 12 mm bore."""

    name: str
    title: str
    conductivity_w_mk: Positive
    density_kg_m3: Positive
    cp_j_kgk: Positive
    absorptance: Fraction
    emittance: Fraction
    top_service_c: Number
    drinking: YesNo = Field(description="Whether makers sell it for drinking water")
    price_m: NotNegative
    source: str

    @property
    def skin(self) -> Absorber:
        """What the sun meets on it, and what heat can spoil."""
        return Absorber(
            name="pipe", title=self.title, top_service_c=self.top_service_c, food_safe=self.drinking, price_m2=0, source=self.source,
            absorptance=self.absorptance, emittance=self.emittance,
        )  # fmt: skip


class PoolCover(Model):
    """What lies on open water, or over it."""

    name: str
    title: str
    w_m2k: Positive = Field(description="From the water to its outside")
    light_share: Fraction = Field(description="Of the sun on it that gets into the water")
    open_share: Fraction = Field(description="Of the vapour that still gets away")
    price_m2: NotNegative
    source: str


R = TypeVar("R", bound=Model)


def _how_given(value: object) -> str:
    return "listed" if isinstance(value, str) else "own"


def named_in(table: Callable[[], dict[str, R]], field: str) -> AfterValidator:
    """What a field's text has to be: the name of a row of a table."""

    def check(name: str) -> str:
        find(table(), name, field)
        return name

    return AfterValidator(check)


def _read(file_name: str, model: type[R]) -> dict[str, R]:
    text = resources.files(__package__).joinpath(file_name).read_text(encoding="utf-8")
    rows = {}
    for raw in csv.DictReader(text.splitlines()):
        values: dict[str, object] = {key: _typed(value) for key, value in row_in_words(raw).items()}
        row = model.model_validate(values)
        rows[raw["name"]] = row
    return rows


def _typed(text: str) -> object:
    if text == "":
        return None
    if text in ("yes", "no"):
        return text == "yes"
    try:
        return float(text)
    except ValueError:
        return text


@cache
def absorbers() -> dict[str, Absorber]:
    """Absorber finishes by name."""
    return _read("absorbers.csv", Absorber)


@cache
def covers() -> dict[str, Cover]:
    """Cover sheets by name."""
    return _read("covers.csv", Cover)


@cache
def mirrors() -> dict[str, Mirror]:
    """Mirror surfaces by name."""
    return _read("mirrors.csv", Mirror)


@cache
def layers() -> dict[str, Layer]:
    """Insulation and structural layers by name."""
    return _read("layers.csv", Layer)


@cache
def foods() -> dict[str, Food]:
    """Pot contents by name."""
    return _read("foods.csv", Food)


@cache
def produce() -> dict[str, Produce]:
    """Foods to be dried, by name."""
    return _read("produce.csv", Produce)


@cache
def vessels() -> dict[str, Vessel]:
    """Pots, tins and jars by name."""
    return _read("vessels.csv", Vessel)


@cache
def contacts() -> dict[str, Contact]:
    """Ways to stand on something, by name."""
    return _read("contacts.csv", Contact)


@cache
def sweets() -> dict[str, Sweet]:
    """Sweets, wax sticks and the like by name."""
    return _read("sweets.csv", Sweet)


@cache
def species() -> dict[str, Species]:
    """Kinds of wood by name."""
    return _read("species.csv", Species)


@cache
def timbers() -> dict[str, Timber]:
    """Timber that builds stand on, by name."""
    return _read("timbers.csv", Timber)


@cache
def waxes() -> dict[str, Wax]:
    """Waxes by name."""
    return _read("waxes.csv", Wax)


@cache
def pipes() -> dict[str, Pipe]:
    """Hoses and pipes by name."""
    return _read("pipes.csv", Pipe)


@cache
def things() -> dict[str, Thing]:
    """What is bought by the piece, the metre or the square metre, by name."""
    return _read("things.csv", Thing)


@cache
def pool_covers() -> dict[str, PoolCover]:
    """What lies on open water by name."""
    return _read("pool_covers.csv", PoolCover)


def find(table: dict[str, R], name: str, field: str) -> R:
    """Return the row of that name, or say which names come nearest.

    Raises
    ------
    InputProblem
        no row has this name.
    """
    try:
        return table[name]
    except KeyError:
        raise unknown_name(field, name, table) from None


@dataclass(frozen=True)
class Family:
    """A kind of material that a user may add to: its model, its table, and plain words."""

    model: type[Row]
    table: Callable[[], Mapping[str, Row]]
    title: str


FAMILIES: dict[str, Family] = {
    "absorber": Family(Absorber, absorbers, "Finishes"),
    "cover": Family(Cover, covers, "Covers"),
    "mirror": Family(Mirror, mirrors, "Mirrors"),
    "layer": Family(Layer, layers, "Insulation and structure"),
}

# A part is made of a listed material, by its name, or of a user's own one, by its whole row: so a build carries all
# that it needs, and a trial keeps what it was tested with.
FinishChoice = Annotated[
    Annotated[str, named_in(absorbers, "finish"), Tag("listed")] | Annotated[Absorber, Tag("own")],
    Discriminator(_how_given),
]
CoverChoice = Annotated[
    Annotated[str, named_in(covers, "material"), Tag("listed")] | Annotated[Cover, Tag("own")],
    Discriminator(_how_given),
]
MirrorChoice = Annotated[
    Annotated[str, named_in(mirrors, "material"), Tag("listed")] | Annotated[Mirror, Tag("own")],
    Discriminator(_how_given),
]
PipeChoice = Annotated[
    Annotated[str, named_in(pipes, "material"), Tag("listed")] | Annotated[Pipe, Tag("own")], Discriminator(_how_given)
]
PoolCoverChoice = Annotated[
    Annotated[str, named_in(pool_covers, "material"), Tag("listed")] | Annotated[PoolCover, Tag("own")],
    Discriminator(_how_given),
]
LayerChoice = Annotated[
    Annotated[str, named_in(layers, "material"), Tag("listed")] | Annotated[Layer, Tag("own")],
    Discriminator(_how_given),
]


def absorber(choice: str | Absorber) -> Absorber:
    """The row of a finish."""
    return absorbers()[choice] if isinstance(choice, str) else choice


def cover(choice: str | Cover) -> Cover:
    """The row of a cover sheet."""
    return covers()[choice] if isinstance(choice, str) else choice


def mirror(choice: str | Mirror) -> Mirror:
    """The row of a mirror surface."""
    return mirrors()[choice] if isinstance(choice, str) else choice


def layer(choice: str | Layer) -> Layer:
    """The row of a wall's layer."""
    return layers()[choice] if isinstance(choice, str) else choice
