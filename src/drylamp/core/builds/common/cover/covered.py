"""Builds with a cover."""

from __future__ import annotations

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.cover.spec import GlazedCover, Skin


class Covered(Build):
    """A build with a cover, or with a place for one."""

    cover: GlazedCover | None = GlazedCover()

    @property
    def skins(self) -> list[Skin]:
        """The cover's skins from the innermost out; none when it stands open."""
        return self.cover.skins if self.cover else []
