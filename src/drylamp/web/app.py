"""The application factory."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable

from flask import Response
from flask_openapi3 import Info, OpenAPI

from drylamp import __version__
from drylamp.store.database import Database
from drylamp.web import bodies, errors, security
from drylamp.web.advice import routes as advice
from drylamp.web.begun import Begun, scripts
from drylamp.web.beside import routes as beside
from drylamp.web.builds import routes as builds
from drylamp.web.classes import routes as classes
from drylamp.web.document import document_text
from drylamp.web.find import routes as find
from drylamp.web.jobs import heavy
from drylamp.web.jobs import routes as jobs
from drylamp.web.jobs.workers import LONGEST_S, Here, Process, Workers
from drylamp.web.kinds import routes as kinds
from drylamp.web.materials import routes as materials
from drylamp.web.pages import add_pages
from drylamp.web.places import routes as places
from drylamp.web.readings import routes as readings
from drylamp.web.settings import MAX_UPLOAD_BYTES, Settings
from drylamp.web.share import routes as share
from drylamp.web.sheets import routes as sheets
from drylamp.web.sites import routes as sites
from drylamp.web.sites import yard as yards
from drylamp.web.system import routes as system
from drylamp.web.trials import routes as trials
from drylamp.web.twin import routes as twin
from drylamp.web.unreadable import routes as unreadable
from drylamp.web.wishes import routes as wishes
from drylamp.web.yard import routes as yard


def create_app(settings: Settings) -> OpenAPI:
    """Make the app: API under /api, everything else is the front end's one page."""
    app = OpenAPI(
        __name__,
        info=Info(title="Dry Lamp", version=__version__),
        security_schemes={},
        doc_ui=False,
        validation_error_callback=errors.validation_problem,
        validation_error_status=422,
        static_folder=None,
    )
    app.config["MAX_CONTENT_LENGTH"] = MAX_UPLOAD_BYTES
    app.json = bodies.StrictJson(app)
    app.config["DRYLAMP"] = settings
    app.config["DATABASE"] = Database(settings.data)
    far = settings.workers == "processes"
    app.config["FAR"] = far
    app.config["WORKERS"] = Workers(
        {lane: Process(settings.data, longest_s) for lane, longest_s in LONGEST_S.items()}
        if far
        else {"soon": Here(app), "long": Here(app)}
    )
    app.config["WARM"] = threading.Event()
    errors.register(app)
    security.register(app, settings.hosts)
    bodies.register(app)
    heavy.register(app)
    for module in (
        system,
        kinds,
        materials,
        places,
        sites,
        builds,
        twin,
        advice,
        trials,
        readings,
        sheets,
        jobs,
        unreadable,
        wishes,
        yard,
        yards,
        beside,
        classes,
        share,
        find,
    ):
        app.register_api(module.api)
    app.register_api(sheets.of_rows)
    app.add_url_rule("/api/openapi.json", view_func=lambda: Response(document_text(), mimetype="application/json"))
    add_pages(app, settings.static, lambda path, day: scripts(Begun(app).of(path, day)))
    return app


def warm_up(app: OpenAPI, first_run: Callable[[], None]) -> threading.Thread:
    """Compile, or load from the cache, what the first forecast needs, without keeping anybody waiting."""

    def work() -> None:
        try:
            first_run()
        except Exception:  # a cold first forecast is only slow
            logging.getLogger("drylamp").exception("warming up failed")
        finally:
            app.config["WARM"].set()
            app.config["WORKERS"].begin()

    thread = threading.Thread(target=work, name="warm-up", daemon=True)
    thread.start()
    return thread
