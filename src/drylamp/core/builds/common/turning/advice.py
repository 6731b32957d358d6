"""What is said of how a build stands: how steep, and whether somebody turns it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Change, Option, Rule, School
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.turning.spec import Turned
from drylamp.core.loads.load import Load
from drylamp.core.text import degrees

SUMMER_MARK, EQUINOX_MARK, WINTER_MARK = 20.0, 45.0, 60.0
SEASON_DEG, APART_DEG = 15.0, 12.0
"""Set for a season, steeper or flatter than latitude by so much (common practice, no source); noon so far from the mean is one."""
TRIED_DEG = (-10.0, 10.0)


def turns_every(*minutes: float) -> Rule[Turned, Load | None]:
    """Turning it oftener than now, for kinds that somebody turns."""

    def changes(build: Turned, load: Load | None) -> Iterator[Change]:
        every = build.turned_minutes
        for tried in minutes:
            if every is None or every > tried:
                title = f"turned to the sun every {tried:.0f} min"
                yield Change(title, "aim", build.with_(turned_minutes=tried), load, 0.0)

    return Rule("aim", changes, 0.5)


def _tilted(build: Build, load: Load | None) -> Iterator[Change]:
    for by in TRIED_DEG:
        tilt = _kept(build.tilt_deg + by)
        if tilt != build.tilt_deg:
            yield Change(f"tilted {degrees(tilt)} from level", "aim", build.with_(tilt_deg=tilt), load, 0.0)


def _kept(tilt: float) -> float:
    return min(max(tilt, 0.0), 90.0)


def _tilts(context: AdviceContext, build: Build, load: Load | None) -> list[Option]:
    around, season = abs(context.case.site.latitude_deg), _season(context)
    by_season = {"summer": around - SEASON_DEG, "equinox": around, "winter": around + SEASON_DEG}[season]
    mark = {"summer": SUMMER_MARK, "equinox": EQUINOX_MARK, "winter": WINTER_MARK}[season]
    said = SEASON_WORDS[season]
    noon = 90.0 - float(np.max(context.weather.sun.altitude_deg))
    wanted = [
        ("tilt = latitude", around), ("a stock 45°", 45.0), (f"latitude set for {said}", by_season),
        (f"fixed mark for {said}", mark), ("square to today's noon", noon), ("as it is", build.tilt_deg),
    ]  # fmt: skip
    return [
        Option(f"{title} ({degrees(_kept(tilt))})", build.with_(tilt_deg=_kept(tilt)), load) for title, tilt in wanted
    ]


SEASON_WORDS = {"summer": "summer", "equinox": "spring or autumn", "winter": "winter"}


def _season(context: AdviceContext) -> str:
    noon = float(np.max(context.weather.sun.altitude_deg))
    middle = 90.0 - abs(context.case.site.latitude_deg)
    return "summer" if noon > middle + APART_DEG else "winter" if noon < middle - APART_DEG else "equinox"


def _turns(context: AdviceContext, build: Turned, load: Load | None) -> list[Option]:
    wanted = [
        ("left as it stands", None), ("turned every 2 h", 120.0), ("turned every hour", 60.0), ("turned every half hour", 30.0),
    ]  # fmt: skip
    return [Option(title, build.with_(turned_minutes=every), load) for title, every in wanted]


TILTED: Rule[Build, Load | None] = Rule("aim", _tilted, 0.1)
TILTS: School[Build, Load | None] = School("tilt", "How steep?", _tilts)
TURNS: School[Turned, Load | None] = School("turning", "Turn it or leave it?", _turns)
