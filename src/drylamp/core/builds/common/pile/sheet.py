"""The pile as a site's sheet: what lies there, how large, how many, in what state, what it cost."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal, Protocol

from pydantic import Field, model_validator

from drylamp.core import tables
from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Count, Model, Name, Number, require, unknown_name
from drylamp.core.common.bill import Family
from drylamp.core.forms import Option, asked
from drylamp.core.text import amount, capital, counted, litres, metres

Sort = Literal["pane", "sheet", "mirror", "pipe", "thing", "drum"]
SORTS: dict[str, str] = {
    "pane": "pane, old window, film", "sheet": "board, foam, sheet metal", "mirror": "mirror, foil", "pipe": "hose or pipe", "thing": "fan, panel, battens, hinges …",
    "drum": "drum, tub, pot, jar",
}  # fmt: skip
State = Literal["good", "fair", "poor"]
STATES = {"good": "good", "fair": "used, sound", "poor": "scratched, bent or torn"}
SIDE = Annotated[Number, Field(gt=0, le=500)]
NO_MATERIAL = ""


class Titled(Protocol):
    """A row of a table that people have a word for."""

    @property
    def title(self) -> str:
        """In words."""


class Salvaged(Model):
    """So many pieces alike."""

    name: Name = Field(title="What it is", description="As you would say it: sash of the old kitchen window")
    sort: Sort = Field(default="pane", title="Counts as", json_schema_extra=asked(options=SORTS))
    of: Annotated[str, Field(max_length=60)] = Field(default=NO_MATERIAL, title="Of", description="Empty: not known")
    count: Annotated[Count, Field(ge=1, le=10000)] = Field(default=1, title="How many")
    long_m: SIDE | None = Field(
        default=None, title="Long", description="Of hose and battens all that there is of one piece"
    )
    wide_m: SIDE | None = Field(default=None, title="Wide")
    thick_m: Annotated[Number, Field(gt=0, le=1)] | None = Field(default=None, title="Thick")
    litres: Annotated[Number, Field(gt=0, le=1e5)] | None = Field(
        default=None, title="Holds", json_schema_extra=asked(only_with={"sort": ["drum"]})
    )
    state: State = Field(default="fair", title="It is", json_schema_extra=asked(options=STATES))
    price: Annotated[Number, Field(ge=0, le=1e6)] = Field(
        default=0.0, title="Cost", description="What it cost or would fetch, each"
    )
    photo: Annotated[str, Field(max_length=200)] = Field(
        default="", title="Where it is", description="Or where its picture is"
    )

    @model_validator(mode="after")
    def _whole(self) -> Salvaged:
        known = materials_of(self.sort)
        if self.of not in (NO_MATERIAL, *known):
            raise unknown_name("material", self.of, known)
        flat = self.sort in ("pane", "sheet", "mirror")
        require(
            not flat or (self.long_m is not None and self.wide_m is not None),
            "long_m",
            "one side or none was given; a flat piece has two, so measure both",
        )
        require(
            self.sort != "pipe" or self.long_m is not None,
            "long_m",
            "nothing was given; say how long one piece of it is",
        )
        require(self.sort != "drum" or self.litres is not None, "litres", "nothing was given; say how much it holds")
        return self

    @property
    def family(self) -> Family | None:
        """What it can take the place of; a drum holds what is heated, and is no part of a build."""
        return None if self.sort == "drum" else self.sort

    @property
    def sides_m(self) -> tuple[float, float]:
        """The longer side first; what is not flat has one."""
        sides = sorted((self.long_m or 0.0, self.wide_m or 0.0), reverse=True)
        return sides[0], sides[1]


def materials_of(sort: str) -> Mapping[str, Titled]:
    """Rows that something of a sort may be made of."""
    by_sort: dict[str, Mapping[str, Titled]] = {
        "pane": tables.covers(), "sheet": tables.layers(), "mirror": tables.mirrors(), "pipe": tables.pipes(), "thing": tables.things(), "drum": {},
    }  # fmt: skip
    return by_sort[sort]


def _size(row: Salvaged) -> str:
    if row.litres is not None:
        return litres(row.litres)
    said = " × ".join(metres(side) for side in (row.long_m, row.wide_m) if side is not None)
    return said or "–"


def _page(rows: Sequence[Salvaged], around: Around) -> SheetPage:
    lines = [
        SheetLine(
            cells=[row.name, str(row.count), _size(row), _title(row), STATES[row.state], amount(row.price, "price") if row.price else "–"],
            warning="" if row.of or row.sort == "drum" else "of what is it? Then a build can count on it",
        )
        for row in rows
    ]  # fmt: skip
    words = (
        [f"{capital(counted(sum(row.count for row in rows), 'piece'))} in {counted(len(rows), 'row')}."] if rows else []
    )
    return SheetPage(columns=["what", "how many", "size", "of", "it is", "each"], lines=lines, words=words)


def _title(row: Salvaged) -> str:
    found = materials_of(row.sort).get(row.of)
    return "–" if found is None else found.title


def _options(around: Around) -> dict[str, list[Option]]:
    every = {name: row for sort in SORTS for name, row in materials_of(sort).items()}
    known = [Option(value=name, title=row.title) for name, row in every.items()]
    return {"of": [Option(value=NO_MATERIAL, title="not known"), *known]}


PILE: Sheet[Salvaged] = Sheet(
    "pile", "Salvage pile", "site", "What lies about and may become a build: measure it once, and every build says what of it it can use.", Salvaged,
    _page, lambda rows, around: begin_with(Salvaged, around.today), options=_options,
)  # fmt: skip
