"""How bodies are read: Flask's own JSON, behind a check on its depth."""

from __future__ import annotations

from typing import Any

from flask.json.provider import DefaultJSONProvider

from drylamp.core.checks import DryLampError, InputProblem
from drylamp.formats.json_text import check_depth


class DeepBodyError(DryLampError):
    """A body is nested too deep; no ValueError, which Flask would take for broken JSON."""


class ShallowJson(DefaultJSONProvider):
    """Flask's own JSON, for bodies that are not nested without end."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        """Read JSON text.

        Raises:
            DeepBodyError: it is nested too deep.
        """
        try:
            check_depth(s.decode("utf-8", "replace") if isinstance(s, bytes) else s)
        except InputProblem as problem:
            raise DeepBodyError(str(problem)) from None
        return super().loads(s, **kwargs)
