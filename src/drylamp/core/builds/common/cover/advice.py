"""What is said of covers: more sheets, other sheets, and what glass does to heat."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Change, Found, Option, Rule, Saying, School
from drylamp.core.advice.safe import HotParts
from drylamp.core.builds.common.cover.covered import Covered
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.loads.load import Load

MOST_SHEETS = 3
OPEN_TO_HEAT = {"name": "clear-to-heat", "longwave_transmittance": 0.8, "emittance": 0.15}
"""A sheet as clear to sun as glass but open to heat rays, as thin film is."""


def _changes(build: Covered, load: Load | None) -> Iterator[Change]:
    area, cover = build.opening_m2, build.cover
    if cover is None:
        glass = GlazedCover()
        yield Change("a pane of glass over it", "cover", build.with_(cover=glass), load, glass.row.price_m2 * area)
        return
    if cover.layers + len(cover.more) < MOST_SHEETS:
        more = cover.model_copy(update={"layers": cover.layers + 1})
        price = cover.row.price_m2 * area
        yield Change("one more sheet of the same cover", "cover", build.with_(cover=more), load, price)
    for name in ("low-iron-glass", "twin-wall-10", "polyester-film"):
        row = tables.covers()[name]
        if row is not cover.row:
            other = GlazedCover(material=name, thickness_m=row.usual_thickness_m, layers=1, gap_m=cover.gap_m)
            yield Change(f"{row.title.lower()} instead", "cover", build.with_(cover=other), load, row.price_m2 * area)


def _sheets(context: AdviceContext, build: Covered, load: Load | None) -> list[Option]:
    cover = build.cover or GlazedCover()
    options = [
        (
            f"{'one cover' if n == 1 else 'two covers'} of {cover.row.title.lower()}",
            GlazedCover(material=cover.material, thickness_m=cover.thickness_m, layers=n, gap_m=cover.gap_m),
        )
        for n in (1, 2)
    ]
    heat = HotParts.of(context)
    for name in ("window-glass", "twin-wall-10", "polyester-film"):
        row = tables.covers()[name]
        if row is not cover.row and heat.stands("cover-1", row.top_service_c):
            one = GlazedCover(material=name, thickness_m=row.usual_thickness_m)
            options.append((f"one cover of {row.title.lower()}", one))
    return [Option(title, build.with_(cover=sheet), load) for title, sheet in options]


def _two_covers(context: AdviceContext, build: Covered, load: Load | None) -> Found | None:
    cover = build.cover or GlazedCover()
    one, two = (build.with_(cover=cover.model_copy(update={"layers": n, "more": []})) for n in (1, 2))
    effect = context.between((two, load), (one, load))
    said = context.measure.signed(effect)
    return Found(
        effect, f"A second sheet of {cover.row.title.lower()} makes {said}; it keeps heat in and some sun out."
    )


def _glass_mirrors_heat(context: AdviceContext, build: Covered, load: Load | None) -> Found | None:
    if build.cover is None:
        return None
    glass = GlazedCover(material="clear-float-glass", thickness_m=0.004, layers=1)
    clear = glass.model_copy(update={"material": glass.row.model_copy(update=OPEN_TO_HEAT)})
    effect = context.between((build.with_(cover=glass), load), (build.with_(cover=clear), load))
    words = (
        "Glass takes heat rays up and gives half of them back; a sheet as clear to sun but open to heat rays "
        f"(as thin film is) makes {context.measure.signed(-effect)}."
    )
    small = abs(effect) < context.measure.least_worth
    return Found(effect, words, "does not matter here" if small else "holds partly" if effect > 0 else "wrong")


CHANGES: Rule[Covered, Load | None] = Rule("cover", _changes, 2.0)
SHEETS: School[Covered, Load | None] = School("cover", "One cover or two; glass, twin-wall or film?", _sheets)
TWO_COVERS: Saying[Covered, Load | None] = Saying("two-covers", "Two covers are hotter than one.", _two_covers)
GLASS: Saying[Covered, Load | None] = Saying("glass", "Glass mirrors the heat back.", _glass_mirrors_heat)
