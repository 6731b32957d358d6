"""The application factory."""

from __future__ import annotations

import json
import logging
import threading
from collections.abc import Callable
from pathlib import Path

from flask import Response, g, request, send_from_directory
from flask_openapi3 import Info, OpenAPI

from drylamp import __version__
from drylamp.store.database import Database
from drylamp.web import errors, security
from drylamp.web.advice import routes as advice
from drylamp.web.bodies import ShallowJson
from drylamp.web.builds import routes as builds
from drylamp.web.document import api_document
from drylamp.web.kinds import routes as kinds
from drylamp.web.materials import routes as materials
from drylamp.web.readings import routes as readings
from drylamp.web.settings import MAX_UPLOAD_BYTES, Settings
from drylamp.web.sites import routes as sites
from drylamp.web.system import routes as system
from drylamp.web.trials import routes as trials
from drylamp.web.twin import routes as twin

NOT_BUILT = "<!doctype html><title>Dry Lamp</title><p>The front end is not built yet: run <code>make build</code>."
TYPES = {".js": "text/javascript", ".css": "text/css", ".woff2": "font/woff2", ".svg": "image/svg+xml"}


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
    app.json = ShallowJson(app)
    app.config["DRYLAMP"] = settings
    app.config["DATABASE"] = Database(settings.data)
    app.config["WARM"] = threading.Event()
    errors.register(app)
    security.register(app, settings.hosts)
    for module in (system, kinds, materials, sites, builds, twin, advice, trials, readings):
        app.register_api(module.api)
    app.add_url_rule(
        "/api/openapi.json", view_func=lambda: Response(json.dumps(api_document(app)), mimetype="application/json")
    )
    _serve_front_end(app, settings.static)
    return app


def _serve_front_end(app: OpenAPI, static: Path) -> None:
    @app.get("/assets/<path:name>", doc_ui=False)
    def assets(name: str = "") -> Response:
        response = send_from_directory(
            static / "assets", request.view_args["name"], mimetype=TYPES.get(Path(request.path).suffix)
        )  # type: ignore[index]
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    @app.errorhandler(404)
    def page(_: Exception) -> Response:
        """Any address that is not the API's is a view of the one page."""
        if request.path.startswith(("/api/", "/assets/")) or request.method != "GET":
            return errors.problem(404, f"there is nothing at {request.path}")
        index = static / "index.html"
        text = index.read_text(encoding="utf-8") if index.exists() else NOT_BUILT
        response = Response(text.replace("__NONCE__", g.nonce), mimetype="text/html")
        response.headers["Cache-Control"] = "no-store"
        return response


def warm_up(app: OpenAPI, first_run: Callable[[], None]) -> threading.Thread:
    """Compile, or load from the cache, what the first forecast needs, without keeping anybody waiting."""

    def work() -> None:
        try:
            first_run()
        except Exception:  # a cold first forecast is only slow
            logging.getLogger("drylamp").exception("warming up failed")
        finally:
            app.config["WARM"].set()

    thread = threading.Thread(target=work, name="warm-up", daemon=True)
    thread.start()
    return thread
