"""The bright patch of any build that has a tray."""

from __future__ import annotations

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.bright_patch import BrightPatch
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load


def bright_patch(build: Build, load: Load | None, toward_sun: Array) -> BrightPatch:
    """Where the light lands on the tray.

    Parameters
    ----------
    toward_sun
        unit vector east, north, up; below the horizon everything is dark

    Raises
    ------
    InputProblem
        the build has no tray.
    """
    made = kind_of(build).patch
    if made is None:
        raise InputProblem("spec.kind", "the bright patch is drawn for boxes with a tray; this kind has none")
    return made(build, load, toward_sun)
