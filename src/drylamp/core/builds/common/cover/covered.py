"""Builds with a cover."""

from __future__ import annotations

from typing import Self

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.cover.spec import GlazedCover, Skin
from drylamp.core.forms import asked


class Covered(Build):
    """A build with a cover, or with a place for one."""

    cover: GlazedCover | None = Field(default=GlazedCover(), title="Cover", json_schema_extra=asked("cover"))

    def glazed_with(self, material: str, layers: int) -> Self | None:
        """Its cover of those; one that stands open stays so."""
        return None if self.cover is None else self.with_(cover=self.cover.made_of(material, layers))

    @property
    def skins(self) -> list[Skin]:
        """The cover's skins from the innermost out; none when it stands open."""
        return self.cover.skins if self.cover else []
