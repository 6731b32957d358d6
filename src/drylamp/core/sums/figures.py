"""A small figure of each sum: how its main answer goes with one of its inputs, the others as in an everyday example.

The examples are made up; only the shape of the curve is to be learnt from them. Where somebody has typed inputs, those stand
in their place and the curve is that of the case in hand.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta, timezone
from functools import cache
from importlib.resources import files
from typing import Any

from pydantic import ValidationError

from drylamp.core.checks import InputProblem
from drylamp.core.common.curve import SumCurve, Value
from drylamp.core.sums.registry import QuickSum

POINTS = 25
"""So many answers make a curve: its cost is that many sums."""
KEPT = "figures.json"
"""The answers of the examples (`scripts/write_sum_figures`)."""


@dataclass(frozen=True)
class Figure:
    """What a sum's figure shows.

    Attributes:
        shows: the answer that goes up
        over: the input that goes to the right
        values: of that input, in order
        given: the other inputs of the example
        is_steady: what else is typed hardly changes it, and it takes long: it is only shown as in the example
    """

    shows: str
    over: str
    values: tuple[Value, ...]
    given: Mapping[str, Value] = field(default_factory=dict)
    is_steady: bool = False


def _between(first: float, last: float) -> tuple[Value, ...]:
    return tuple(round(first + (last - first) * k / (POINTS - 1), 6) for k in range(POINTS))


_ZONE = timezone(timedelta(hours=2))
_DAY = tuple(datetime(2025, 6, 21, 6, tzinfo=_ZONE) + timedelta(minutes=36 * k) for k in range(POINTS))
_HOURS = tuple(moment.isoformat() for moment in _DAY)
_DATES = tuple((datetime(2025, 1, 6) + timedelta(days=15 * k)).date().isoformat() for k in range(24))
_TERRACE = {"latitude": 45.0, "longitude": 7.4}


def _log() -> str:
    """A pot that warms by ever less, a reading each ten minutes, as a logger would write it."""
    rows = ["time,water_c,ambient_c,sun_w_m2,wind_m_s"]
    for k in range(POINTS):
        water = 95.0 - 65.0 * math.exp(-k / 14.0)
        rows.append(f"{(_DAY[6] + timedelta(minutes=10 * k)).isoformat()},{water:.2f},25,700,0.5")
    return "\n".join(rows)


FIGURES: dict[str, Figure] = {
    "moist-air": Figure("dew_point_c", "rh", _between(0.1, 1.0), {"temperature_c": 25}),
    "moisture-basis": Figure("mc_dry", "mc_wet", _between(0.05, 0.9)),
    "target-weight": Figure("target_weight_kg", "mc_wet", _between(0.4, 0.92), {"weight_kg": 10, "target_mc_wet": 0.18}),
    "drying-air": Figure("air_m3_h", "in_rh", _between(0.2, 0.9), {"water_kg": 5, "hours": 10, "in_c": 25, "heated_c": 55}),
    "coat-price": Figure("price_m2", "covers_m2", _between(4, 20), {"tin_price": 30, "coats": 2}),
    "figures-of-merit": Figure("f1_m2k_w", "plate_c", _between(80, 150), {"ambient_c": 25, "sun_w_m2": 800}),
    "cooking-power": Figure("standard_power_w", "mass_kg", _between(1, 8), {"file": _log(), "area_m2": 0.6}, is_steady=True),
    "melt": Figure("energy_mj", "from_c", _between(0, 60), {"mass_kg": 5}),
    "top-loss": Figure("u_top_w_m2k", "wind_m_s", _between(0, 10), {"plate_c": 100, "ambient_c": 20, "covers": 1, "plate_emittance": 0.9}),
    "wall": Figure("u_w_m2k", "outside_w_m2k", _between(5, 40), {"layers": "0.012:0.12,0.05:0.037,0.012:0.12"}),
    "heat-up": Figure("hours", "power_w", _between(100, 1500), {"mass_kg": 5, "from_c": 15, "to_c": 95}),
    "cool-down": Figure("ua_w_k", "hours", _between(1, 12), {"mass_kg": 5, "start_c": 90, "end_c": 60, "ambient_c": 15}),
    "saving": Figure("payback_years", "price_per_kwh", _between(0.05, 0.6), {"energy_kwh_per_use": 1.2, "uses_per_year": 120, "cost": 150}),
    "draw-mix": Figure("total_l", "last_c", _between(38, 60), {"drawn_l": 80, "first_c": 62, "cold_c": 12, "want_c": 38}),
    "pre-heat": Figure("spared_share", "preheated_c", _between(12, 60), {"litres_a_day": 120, "mains_c": 12}),
    "rain-water": Figure("covered_share", "barrel_l", _between(100, 3000), {"dry_days": 15, "roof_m2": 60, "rain_mm": 60, "use_l": 80}),
    "people-water": Figure("store_l", "persons", _between(1, 8)),
    "sun-position": Figure("altitude_deg", "time", _HOURS, _TERRACE),
    "noon-altitude": Figure("altitude_deg", "date", _DATES, {"latitude": 45}),
    "incidence": Figure("incidence_deg", "time", _HOURS, _TERRACE | {"tilt_deg": 30, "azimuth_deg": 180}),
    "tilt-schools": Figure("best_year_deg", "latitude", (0.0, 10.0, 20.0, 30.0, 40.0, 50.0, 60.0), {"longitude": 7.4}, is_steady=True),
    "shadow": Figure("length_m", "altitude_deg", _between(8, 80), {"height_m": 2}),
    "mirror-tilt": Figure("mirror_angle_deg", "sun_altitude_deg", _between(20, 75), {"opening_tilt_deg": 30}),
    "cover-transmittance": Figure("transmittance", "incidence_deg", _between(0, 88), {"layers": 2, "extinction_per_m": 15, "thickness_m": 0.003}),
    "mix": Figure("total_l", "hot_c", _between(42, 85), {"hot_l": 40, "cold_c": 12, "want_c": 38}),
    "pipe-volume": Figure("volume_l", "inner_mm", _between(8, 40), {"length_m": 10}),
    "gravity-run": Figure("flow_l_min", "head_m", _between(0.3, 5), {"length_m": 12, "inner_mm": 16}),
    "flow-heat": Figure("power_w", "out_c", _between(15, 60), {"litres": 5, "seconds": 120, "in_c": 15}),
    "scald": Figure("seconds_to_serious_burn", "water_c", _between(48, 62)),
    "boil": Figure("boiling_c", "elevation_m", _between(0, 4500)),
    "wood-mc": Figure("mc_dry", "wet_kg", _between(1.0, 2.2), {"dry_kg": 1.0}),
    "board-feet": Figure("board_feet", "width_in", _between(4, 14), {"thickness_in": 1, "length_ft": 8, "count": 20}),
    "wood-emc": Figure("emc", "rh", _between(0.1, 0.95), {"temperature_c": 25}),
    "sample-board": Figure("board_mc", "board_now_kg", _between(2.6, 4.0), {"section_wet_kg": 0.2, "section_dry_kg": 0.12, "board_start_kg": 4.0}),
    "shrinkage": Figure("change_mm", "to_mc", _between(0.06, 0.28), {"species": "northern-red-oak", "from_mc": 0.28, "width_mm": 200, "cut": "flat"}),
    "meter-correction": Figure("mc", "wood_c", _between(0, 50), {"species": "northern-red-oak", "reading_mc": 0.15}),
    "kiln-size": Figure("collector_m2", "board_feet", _between(100, 2000)),
    "safe-rate": Figure("max_mc_loss_per_day", "thickness_in", _between(1, 3), {"species": "northern-red-oak"}),
    "water-in-boards": Figure("water_kg", "from_mc", _between(0.1, 0.9), {"species": "northern-red-oak", "volume_m3": 1, "to_mc": 0.08}),
}  # fmt: skip


@cache
def _kept() -> dict[str, list[float | None]]:
    kept: dict[str, list[float | None]] = json.loads(
        files("drylamp.core.sums").joinpath(KEPT).read_text(encoding="utf-8")
    )
    return kept


def example_of(quick: QuickSum) -> SumCurve:
    """The curve of the everyday example, as it was worked out when the program was made."""
    return _curve(quick, _kept()[quick.name], {})


def curve_of(quick: QuickSum, typed: Mapping[str, object]) -> SumCurve:
    """The answer of a sum along its figure's input, with what was typed in place of the example.

    Raises
    ------
    pydantic.ValidationError, InputProblem
        with what was typed the sum has no answer anywhere on the curve.
    """
    figure = FIGURES[quick.name]
    if figure.is_steady:
        return _curve(quick, _kept()[quick.name], typed)
    return _curve(quick, worked_out(quick, {**figure.given, **typed}), typed)


def _curve(quick: QuickSum, answers: list[float | None], typed: Mapping[str, object]) -> SumCurve:
    figure = FIGURES[quick.name]
    return SumCurve(
        over=figure.over,
        shows=figure.shows,
        at=list(figure.values),
        answers=answers,
        given={name: value for name, value in figure.given.items() if name not in typed and name not in quick.file_fields},
        here=_place(typed.get(figure.over), figure.values),
    )  # fmt: skip


def worked_out(quick: QuickSum, given: Mapping[str, object]) -> list[float | None]:
    """The answer at each value of the figure's input; none where the sum refuses it.

    Raises
    ------
    pydantic.ValidationError, InputProblem
        it refuses them all.
    """
    figure = FIGURES[quick.name]
    answers, refusal = [], None
    for value in figure.values:
        try:
            found = quick.function(quick.inputs.model_validate({**given, figure.over: value}))
            answers.append(_number(getattr(found, figure.shows)))
        except (InputProblem, ValidationError) as problem:
            refusal = refusal or problem
            answers.append(None)
    if refusal is not None and all(answer is None for answer in answers):
        raise refusal
    return answers


def _number(answer: Any) -> float | None:
    return float(answer) if isinstance(answer, int | float) and math.isfinite(answer) else None


def _place(typed: object, values: tuple[Value, ...]) -> float | None:
    """Where a typed number stands between the first and the last."""
    if not isinstance(typed, int | float) or isinstance(values[0], str) or isinstance(values[-1], str):
        return None
    share = (typed - values[0]) / (values[-1] - values[0])
    return share if 0.0 <= share <= 1.0 else None
