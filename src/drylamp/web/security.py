"""Who may talk to the server, and what a page may load."""

from __future__ import annotations

import secrets
from urllib.parse import urlsplit

from flask import Flask, Response, g, request

from drylamp.web.errors import problem
from drylamp.web.share.asker import who

SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}


def host_of(netloc: str) -> str:
    """Host of ``host:port``, brackets of IPv6 kept."""
    if netloc.startswith("["):
        return netloc.split("]")[0] + "]"
    return netloc.rsplit(":", 1)[0] if ":" in netloc else netloc


def register(app: Flask, hosts: tuple[str, ...]) -> None:
    """Check Host and Origin on the way in; set the policy headers on the way out."""

    @app.before_request
    def check_origin() -> Response | None:
        g.nonce = secrets.token_urlsafe(16)
        if who(request.environ) is None and host_of(request.host) not in hosts:  # the gate has looked at a device's own
            return problem(403, f"this server answers to {', '.join(hosts)}, not to '{request.host}'")
        if request.method in SAFE_METHODS:
            return None
        origin = request.headers.get("Origin")
        foreign = origin is not None and urlsplit(origin).netloc != request.host
        if foreign or request.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
            return problem(403, "changes are taken only from Dry Lamp's own pages and from programs on this machine")
        return None

    @app.after_request
    def policy(response: Response) -> Response:
        response.headers["Content-Security-Policy"] = (
            "default-src 'none'; script-src 'self'; connect-src 'self'; img-src 'self' data:; font-src 'self'; manifest-src 'self'; worker-src 'self'; "
            f"style-src 'self' 'nonce-{g.get('nonce', '')}'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
        )
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        if request.path.startswith("/api/"):
            response.headers["Cache-Control"] = "no-store"
        return response
