"""Health, clock and quick sums."""

from __future__ import annotations

from flask import Response, current_app

from drylamp import __version__, compiles_first
from drylamp.core.common.curve import SumCurve
from drylamp.store.database import Database
from drylamp.web import context
from drylamp.web.routed import blueprint
from drylamp.web.system.models import Health, NowView, SumAnswer, SumInputs, SumList, SumPath, SumView

api = blueprint("system", "/api")


@api.get("/health", responses={200: Health})
def health() -> Response:
    """Say whether the server is well."""
    store: Database = current_app.config["DATABASE"]
    warm = bool(current_app.config["WARM"].is_set())
    return context.answer(
        Health(
            version=__version__,
            schema_version=store.version(),
            warm=warm,
            state="ready" if warm else "warming",
            compiles=not warm and compiles_first(),
        )
    )


@api.get("/now", responses={200: NowView})
def now() -> Response:
    """Tell the server's time."""
    return context.answer(
        NowView(
            now=context.now(),
            is_demo=context.settings().is_demo,
            weather_service=context.settings().weather_service is not None,
        )
    )


@api.get("/sums", responses={200: SumList})
def sums() -> Response:
    """List the quick sums with the schemas of their inputs and results."""
    from drylamp.core.sums.figures import example_of
    from drylamp.core.sums.registry import STATIONS, SUMS, called, quantities_of

    views = [
        SumView(
            name=s.name,
            title=s.title,
            words=list(s.words),
            holds=s.holds,
            stations=list(STATIONS[s.holds]),
            formula=s.formula,
            source=s.source,
            quantities=quantities_of(s.inputs, s.result),
            called={name: called(name) for name in (*s.inputs.model_fields, *s.result.model_fields)},
            inputs_schema=s.inputs.model_json_schema(),
            result_schema=s.result.model_json_schema(),
            figure=example_of(s),
        )
        for s in SUMS.values()
    ]
    return context.answer(SumList(views))


@api.post("/sums/<name>", responses={200: SumAnswer})
def run_sum(path: SumPath, body: SumInputs) -> Response:
    """Do a quick sum."""
    from drylamp.core.sums.registry import find_sum

    return context.answer(SumAnswer.model_validate(find_sum(path.name).run(body.root)))


@api.post("/sums/<name>/curve", responses={200: SumCurve})
def draw_sum(path: SumPath, body: SumInputs) -> Response:
    """Tell how a sum's answer goes with its figure's input, with what was typed in place of the example."""
    from drylamp.core.sums.figures import curve_of
    from drylamp.core.sums.registry import find_sum

    return context.answer(curve_of(find_sum(path.name), body.root))
