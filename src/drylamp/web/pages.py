"""The front end's one page and what it is made of."""

from __future__ import annotations

from pathlib import Path

from flask import Flask, Response, g, request, send_from_directory

from drylamp.web import errors

NOT_BUILT = "<!doctype html><title>Dry Lamp</title><p>The front end is not built yet: run <code>make build</code>."
TYPES = {
    ".js": "text/javascript", ".css": "text/css", ".woff2": "font/woff2", ".svg": "image/svg+xml", ".png": "image/png",
    ".webmanifest": "application/manifest+json",
}  # fmt: skip
BESIDE_PAGE = ("sw.js", "manifest.webmanifest", "icon-192.png", "icon-512.png", "icon-maskable-512.png")
"""What must stand at the root, so that the page can be installed and opens without the network."""


def add_pages(app: Flask, static: Path) -> None:
    """Any address that is not the API's is a view of the one page."""

    def assets(name: str) -> Response:
        response = send_from_directory(static / "assets", name, mimetype=TYPES.get(Path(name).suffix))
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    app.add_url_rule("/assets/<path:name>", view_func=assets)

    def beside() -> Response:
        name = request.path.lstrip("/")
        response = send_from_directory(static, name, mimetype=TYPES.get(Path(name).suffix))
        response.headers["Cache-Control"] = "no-cache"
        return response

    for name in BESIDE_PAGE:
        app.add_url_rule(f"/{name}", name, beside)

    @app.errorhandler(404)
    def page(_: Exception) -> Response:
        if request.path.startswith(("/api/", "/assets/")) or request.method not in ("GET", "HEAD"):
            return errors.problem(404, f"there is nothing at {request.path}")
        index = static / "index.html"
        text = index.read_text(encoding="utf-8") if index.exists() else NOT_BUILT
        response = Response(text.replace("__NONCE__", g.nonce), mimetype="text/html")
        response.headers["Cache-Control"] = "no-store"
        return response
