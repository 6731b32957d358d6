"""The front end's one page and what it is made of."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from flask import Flask, Response, g, request, send_from_directory, stream_with_context

from drylamp.web import errors

NOT_BUILT = "<!doctype html><title>Dry Lamp</title><p>The front end is not built yet: run <code>make build</code>."
TYPES = {
    ".js": "text/javascript", ".css": "text/css", ".woff2": "font/woff2", ".svg": "image/svg+xml", ".png": "image/png",
    ".webmanifest": "application/manifest+json",
}  # fmt: skip
BESIDE_PAGE = ("sw.js", "manifest.webmanifest", "icon-192.png", "icon-512.png", "icon-maskable-512.png")
"""What must stand at the root, so that the page can be installed and opens without the network."""


FILES = "files.json"
"""Which files each file of the front end needs, as its builder tells."""


def _ahead(static: Path, address: str) -> str:
    """Links to the files of the screen that an address shows, so that they need not wait until the frame has run."""
    first, _, view = [*address.strip("/").split("/"), "", ""][:3]
    listed = static / FILES
    return (
        _links(_files(listed, listed.stat().st_mtime_ns), (view if first == "sites" else first).casefold())
        if listed.exists()
        else ""
    )


@lru_cache(maxsize=2)
def _files(listed: Path, _: int) -> dict[str, Any]:
    """What the builder told, read again when it was built again."""
    files: dict[str, Any] = json.loads(listed.read_text(encoding="utf-8"))
    return files


def _links(files: Mapping[str, Any], called: str) -> str:
    wanted = [
        key
        for key, file in files.items()
        if file.get("name", "").casefold() in (f"{called}screen", f"{called.removesuffix('s')}screen")
    ]
    at_hand = set(_with_imports(files, [key for key, file in files.items() if file.get("isEntry")]))
    ahead = (files[key]["file"] for key in _with_imports(files, wanted) if key not in at_hand)
    return "".join(f'<link rel="modulepreload" crossorigin href="/{file}">' for file in ahead)


def _with_imports(files: Mapping[str, Any], keys: list[str]) -> list[str]:
    """Files and all that they need at once, each once."""
    found: list[str] = []
    while keys:
        key = keys.pop()
        if key not in found:
            found.append(key)
            keys.extend(files[key].get("imports", []))
    return found


def _nothing(_: str, __: str | None) -> Iterator[str]:
    return iter(())


def add_pages(app: Flask, static: Path, begun: Callable[[str, str | None], Iterator[str]] = _nothing) -> None:
    """Any address that is not the API's is a view of the one page; ``begun`` makes what stands in it, of its path and day."""

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
        head, end, foot = text.replace("__NONCE__", g.nonce).partition("</body>")
        head = head.replace("</head>", _ahead(static, request.path) + "</head>")

        def parts() -> Iterator[str]:
            yield head  # with what is to be loaded, which comes while the answers are made
            if request.method == "GET":
                yield from begun(request.path, request.args.get("day"))
            yield end + foot

        response = Response(stream_with_context(parts()), mimetype="text/html")
        response.headers["Cache-Control"] = "no-store"
        return response
