"""Which of the things that can break on a build its readings point to.

Each story, "as it was built" among them, is a build. Its doubtful parameters are let free within their priors, by one step of least squares after another (Tarantola 2005, ch. 3), as nobody's kiln is the
textbook's; what a story still misses is its chi-square. A fault is named when its story misses less than that of the sound build by more than what sound builds are likelier to begin with.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.fault import Fault
from drylamp.core.builds.registry import kind_of
from drylamp.core.text import amount, capital
from drylamp.core.threads import two_at_a_time
from drylamp.core.trials.beside import Beside
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.fit import LEAST_READINGS, STEP, Binned, binned_of, covariance_of
from drylamp.core.twin.calibration import Calibration

ODDS = 50.0
"""A build is sound so many times as often as one certain thing on it is broken; from memory."""
TOLD_APART = 4.0
"""Two faults whose chi-square differs by less are not told apart (about one in seven)."""
MOST_DAYS, PASSES = 6.0, 2
FURTHEST_SD = 2.5


@dataclass(frozen=True)
class Story:
    """A fault (none: the build is sound), and what it leaves unexplained."""

    fault: Fault | None  # type: ignore[type-arg]
    chi2: float


def stories(at: Beside) -> list[Story]:
    """Every story, the likeliest first; empty where there is too little to tell by."""
    faults = list(_possible(at))
    data = binned_of(at)
    days = (at.facts.last_s() - at.facts.started.timestamp()) / 86400.0
    if not faults or len(data.time_s) < 2 * LEAST_READINGS or days > MOST_DAYS:
        return []
    inverse = np.asarray(np.linalg.inv(covariance_of(at, data)), dtype=float)

    def one(told: tuple[Fault | None, Beside]) -> Story:  # type: ignore[type-arg]
        return Story(told[0], _missed(told[1], data, inverse) + (0.0 if told[0] is None else 2.0 * float(np.log(ODDS))))

    found = two_at_a_time(one, [(None, at), *((fault, at.of(build)) for fault, build in faults)])
    return sorted(found, key=lambda story: story.chi2)


def _possible(at: Beside) -> Iterator[tuple]:  # type: ignore[type-arg]
    for fault in kind_of(at.build).faults:
        build = fault.broken(at.build)
        if build is not None:
            yield fault, build


def _missed(at: Beside, data: Binned, inverse: Array) -> float:
    """Chi-square of a build whose doubtful parameters are free within their priors."""
    rows = kind_of(at.build).doubtful(at.build)
    prior = np.array([row.prior for row in rows])

    def twin(logs: Array) -> Array:
        run = at.run(Calibration.made({row.name: float(np.exp(x)) for row, x in zip(rows, logs, strict=True)}))
        return np.concatenate(
            [run.at(node, data.time_s[span]) for node, span in zip(data.nodes, data.spans, strict=True)]
        )

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
    sound = next(story for story in told if story.fault is None)
    best = told[0]
    if best.fault is None:
        return Figure(
            name="what-broke", title="Broken", value=0.0, doubt=None, quantity="plain", twin=None, grade="nothing found", digits=0, passed=True,
            words="The readings fit a sound build better than any with something broken.",
        )  # fmt: skip
    fault = best.fault
    alike = [
        story.fault.title
        for story in told[1:]
        if story.fault is not None and story.chi2 < min(best.chi2 + TOLD_APART, sound.chi2)
    ]
    also = f" Or: {', or '.join(alike)}; these readings do not tell them apart." if alike else ""
    repair = f"{amount(fault.price, 'price')} and {amount(fault.hours, 'hours')} of work (from memory)" if fault.price else f"{amount(fault.hours, 'hours')} of work (from memory)"  # fmt: skip
    return Figure(
        name="what-broke", title="Broken", value=1.0, doubt=None, quantity="plain", twin=None, grade="", digits=0, passed=False, needs_words=True, fault=fault.title, cure=f"{fault.cure}: {repair}",
        words=f"{capital(fault.title)}: the readings fit that much better than a sound build; {fault.shows}.{also}", brief=fault.title,
    )  # fmt: skip
