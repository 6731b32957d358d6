"""The front door of the core: a case and its weather in, an outcome in plain terms out."""

from __future__ import annotations

from drylamp.core.advice.cautions import Seen, cautions
from drylamp.core.advice.limits import material_flags
from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.case import Case
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import AnyLoad
from drylamp.core.outcome import Outcome, summarise
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import (
    ClearDay,
    Records,
    Span,
    Weather,
    clear_days,
    from_records,
    span_edges_s,
    step_length_s,
)
from drylamp.core.twin import Adjustments, Run, simulate_with_empty


def weather_of(site: Site, source: ClearDay | Records, span: Span) -> Weather:
    """Weather of a span on the march's steps, from a day's numbers or a file's records."""
    start, end = span_edges_s(site, span)
    if isinstance(source, ClearDay):
        return clear_days(site, source, start, end, step_length_s(span))
    return from_records(site, source, start, end, step_length_s(span))


def forecast(
    site: Site,
    spot: str | None,
    build: BuildSpec,
    load: AnyLoad | None,
    weather: Weather,
    name: str = "",
    every_s: float = 300.0,
    adjustments: Adjustments | None = None,
) -> tuple[Outcome, Run]:
    """Run a build with its load and once empty; return what it does, with flags and cautions."""
    run, empty = simulate_with_empty(site, spot, build, load, weather, adjustments)
    plain = summarise(site, build, load, run, empty, name=name, every_s=every_s)
    first = plain.days[0] if plain.days else None
    flags = [*material_flags(build, load, empty, run), *cautions(Seen(site, build, load, empty, run, first))]
    return plain.model_copy(update={"flags": flags}), run


def run_case(case: Case, records: Records | None = None) -> tuple[Outcome, Run]:
    """Run a case; weather from a file comes in as records.

    Raises:
        InputProblem: the case names a weather file and no records came with it.
    """
    if isinstance(case.weather, ClearDay):
        weather = weather_of(case.site, case.weather, case.span)
    elif records is not None:
        weather = weather_of(case.site, records, case.span)
    else:
        raise InputProblem("weather.path", "the file's records are needed; read it first")
    every = 300.0 if case.span.days <= 14 else 3600.0
    return forecast(case.site, case.spot, case.build, case.load, weather, case.name, every)
