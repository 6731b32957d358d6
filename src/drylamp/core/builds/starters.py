"""Builds to begin with, as each kind's folder holds them: they look at the noon sun of wherever they come to stand."""

from __future__ import annotations

from functools import cache
from importlib import resources
from typing import Annotated

import numpy as np
from pydantic import AfterValidator, TypeAdapter

from drylamp.core import builds
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import KINDS, BuildSpec, kind_of
from drylamp.core.checks import Model
from drylamp.core.collect import modules, rooms
from drylamp.core.common.drawing import Section
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence
from drylamp.languages import in_words


class Starter(Model):
    """A build to begin with.

    Attributes:
        title, words: what it is, and whom it is for
        name: what it is called at first
        rank: how early it is offered among all: what needs the least comes first
        spec, load: as they begin
    """

    title: Annotated[str, AfterValidator(in_words)]
    name: Annotated[str, AfterValidator(in_words)]
    words: Annotated[Sentence, AfterValidator(in_words)]
    rank: int = 9
    spec: BuildSpec
    load: LoadSpec | None

    def looking(self, facing_deg: float) -> Starter:
        """The same, facing a way."""
        return self.model_copy(update={"spec": self.spec.turned_to(facing_deg, None)})


@cache
def starters() -> dict[str, list[Starter]]:
    """Builds to begin with, by kind."""
    out: dict[str, list[Starter]] = {name: [] for name in KINDS}
    for room, (kind,) in zip(rooms(builds), modules(builds, "kind"), strict=True):
        text = resources.files(room).joinpath("starters.json").read_text(encoding="utf-8")
        out[kind.KIND.name] = TypeAdapter(list[Starter]).validate_json(text)
    return out


def starters_at(site: Site) -> list[Starter]:
    """Every build to begin with, facing the noon sun of a place, in the order in which they are offered."""
    every = sorted((starter for of_kind in starters().values() for starter in of_kind), key=lambda one: one.rank)
    return [starter.looking(site.equator_azimuth_deg) for starter in every]


def cut_open(site: Site, build: Build, load: Load | None) -> Section:
    """A build's drawing with the sun where it stands at noon when day and night are alike."""
    up, toward = np.radians(90.0 - abs(site.latitude_deg)), np.radians(site.equator_azimuth_deg)
    sun = np.array([np.cos(up) * np.sin(toward), np.cos(up) * np.cos(toward), np.sin(up)])
    return kind_of(build).section(build, load, sun)
