"""The yard file over the wire."""

from __future__ import annotations

from drylamp.core.checks import Model


class TakenIn(Model):
    """What came in: the new sites, the first of them to look at."""

    site_ids: list[int]
