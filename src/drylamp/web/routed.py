"""Where routes hang: blueprints that describe themselves only when the OpenAPI document is being written.

Describing every route at import would cost seconds at each start, for a document that hardly anybody asks a server for.
"""

from __future__ import annotations

import os

from flask_openapi3 import APIBlueprint

DOCUMENTING = "DRYLAMP_DOCUMENTING"
"""Environment variable that is set while the document is written."""


def blueprint(name: str, prefix: str) -> APIBlueprint:
    """A resource's blueprint under a prefix."""
    return APIBlueprint(name, __name__, url_prefix=prefix, doc_ui=os.environ.get(DOCUMENTING) == "1")
