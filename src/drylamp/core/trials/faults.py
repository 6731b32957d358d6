"""Which of the things that can break on a build its readings point to.

Each story, "as it was built" among them, is a build. Its doubtful parameters are let free within their priors, by one step of least squares after another (Tarantola 2005, ch. 3), as nobody's kiln is the
textbook's; what a story still misses is its chi-square. A fault is named when its story misses less than that of the sound build by more than what sound builds are likelier to begin with.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.fault import Fault
from drylamp.core.builds.registry import kind_of
from drylamp.core.text import amount, capital
from drylamp.core.threads import two_at_a_time
from drylamp.core.trials.beside import Beside
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.fit import LEAST_READINGS, STEP, Binned, binned_of, covariance_of, modelled

ODDS = 50.0
"""A build is sound so many times as often as one certain thing on it is broken; from memory."""
TOLD_APART = 4.0
"""Two faults whose chi-square differs by less are not told apart (about one in seven)."""
MOST_DAYS, PASSES = 6.0, 2
FURTHEST_SD = 2.5


AnyFault = Fault[Any]


@dataclass(frozen=True)
class Story:
    """What is broken (nothing: the build is sound), and what that leaves unexplained."""

    faults: tuple[AnyFault, ...]
    chi2: float

    @property
    def title(self) -> str:
        """In words."""
        return " and ".join(fault.title for fault in self.faults)


def stories(at: Beside) -> list[Story]:
    """Every story, the likeliest first; empty where there is too little to tell by."""
    faults = list(_possible(at))
    data = binned_of(at)
    days = (at.facts.last_s() - at.facts.started.timestamp()) / 86400.0
    if not faults or len(data.time_s) < 2 * LEAST_READINGS or days > MOST_DAYS:
        return []
    inverse = np.asarray(np.linalg.inv(covariance_of(at, data)), dtype=float)

    def one(told: tuple[tuple[AnyFault, ...], Beside]) -> Story:
        return Story(told[0], _missed(told[1], data, inverse) + 2.0 * float(np.log(ODDS)) * len(told[0]))

    sound = _missed(at, data, inverse)
    single = two_at_a_time(one, [((fault,), at.of(build)) for fault, build in faults])
    first = min(single, key=lambda story: story.chi2)
    pairs = two_at_a_time(one, list(_with_second(at, first.faults[0]))) if first.chi2 < sound else []
    return sorted([Story((), sound), *single, *pairs], key=lambda story: story.chi2)


def _possible(at: Beside) -> Iterator[tuple[AnyFault, Build]]:
    for fault in kind_of(at.build).faults:
        build = fault.broken(at.build)
        if build is not None:
            yield fault, build


def _with_second(at: Beside, first: AnyFault) -> Iterator[tuple[tuple[AnyFault, ...], Beside]]:
    """The likeliest fault with each other beside it."""
    broken = first.broken(at.build)
    for fault in kind_of(at.build).faults:
        both = None if fault.name == first.name or broken is None else fault.broken(broken)
        if both is not None:
            yield (first, fault), at.of(both)


def _missed(at: Beside, data: Binned, inverse: Array) -> float:
    """Chi-square of a build whose doubtful parameters are free within their priors."""
    rows = kind_of(at.build).doubtful(at.build)
    prior = np.array([row.prior for row in rows])

    def twin(logs: Array) -> Array:
        return modelled(at, data, rows, logs)

    def chi2(logs: Array, here: Array) -> float:
        left = data.value_c - here
        return float(left @ inverse @ left + ((logs / prior) ** 2).sum())

    logs = np.zeros(len(rows))
    here = twin(logs)
    best = chi2(logs, here)
    for _ in range(PASSES):
        slopes = np.column_stack([(twin(logs + STEP * unit) - here) / STEP for unit in np.eye(len(rows))])
        normal = slopes.T @ inverse @ slopes + np.diag(1.0 / prior**2)
        step = np.linalg.solve(normal, slopes.T @ inverse @ (data.value_c - here) - logs / prior**2)
        logs = np.clip(logs + step, -FURTHEST_SD * prior, FURTHEST_SD * prior)
        here = twin(logs)
        best = min(best, chi2(logs, here))
    return best


def what_broke(found: Found) -> Figure | None:
    """The fault that the readings point to; that nothing is broken, where they do not."""
    told = stories(found.at)
    if not told:
        return None
    sound = next(story for story in told if not story.faults)
    best = told[0]
    if not best.faults:
        return Figure(
            name="what-broke", title="Broken", value=0.0, doubt=None, quantity="plain", twin=None, grade="nothing found", digits=0, passed=True,
            words="The readings fit a sound build better than any with something broken.",
        )  # fmt: skip
    alike = [story.title for story in told[1:] if story.faults and story.chi2 < min(best.chi2 + TOLD_APART, sound.chi2)]
    also = f" Or: {', or '.join(alike)}; these readings do not tell them apart." if alike else ""
    shows = "; ".join(fault.shows for fault in best.faults)
    return Figure(
        name="what-broke", title="Broken", value=float(len(best.faults)), doubt=None, quantity="plain", twin=None, grade="", digits=0, passed=False, needs_words=True, fault=best.title, cure="; ".join(_cure(fault) for fault in best.faults),
        words=f"{capital(best.title)}: the readings fit that much better than a sound build; {shows}.{also}", brief=_brief(found.at, best),
    )  # fmt: skip


def _brief(at: Beside, story: Story) -> str:
    """The parts that are broken, at a glance."""
    parts = kind_of(at.build).parts
    return f"broken: {', '.join(dict.fromkeys(parts[fault.part] for fault in story.faults))}"


def _cure(fault: AnyFault) -> str:
    """What is done about it, with what that takes."""
    price = f"{amount(fault.price, 'price')} and " if fault.price else ""
    return f"{fault.cure} ({price}{amount(fault.hours, 'hours')} of work, from memory)"
