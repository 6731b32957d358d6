"""Verdicts and fits once worked out, kept by all that they depend on: a kiln's takes half a minute, and every view of its build tells it again."""

from __future__ import annotations

from collections.abc import Sequence
from hashlib import blake2b

from drylamp.core.builds.build import Build
from drylamp.core.kept import Kept
from drylamp.core.sky.site import Site
from drylamp.core.trials.beside import beside
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.fit import Fit, fit
from drylamp.core.trials.verdict import Verdict, judge

_VERDICTS: Kept[str, Verdict] = Kept(32)
_FITS: Kept[str, Fit] = Kept(16)


def judged(site: Site, build: Build, facts: TrialFacts, wall_m2: float = 1.0) -> Verdict:
    """A trial's verdict.

    Raises
    ------
    InputProblem
        there is no reading to judge, or the load does not fit the build.
    """
    return _VERDICTS.get(_key(site, build, facts, wall_m2), lambda: judge(site, build, facts, wall_m2))


def fitted(site: Site, build: Build, facts: TrialFacts, parameters: Sequence[str]) -> Fit:
    """The twin's doubtful parameters, those named or the usual ones, as a trial tells them.

    Raises
    ------
    InputProblem
        a name is no doubtful parameter of this kind, or there are too few readings.
    """
    key = _key(site, build, facts, *parameters)
    return _FITS.get(key, lambda: fit(beside(site, build, facts), list(parameters) or None))


def _key(site: Site, build: Build, facts: TrialFacts, *more: object) -> str:
    parts = (site.model_dump_json(), build.model_dump_json(), facts.model_dump_json(), repr(more))
    return blake2b("\0".join(parts).encode(), digest_size=16).hexdigest()
