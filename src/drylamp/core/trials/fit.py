"""Fit the twin's doubtful parameters to a trial.

Each parameter is a factor on the textbook's value, fitted by its natural logarithm, with a prior as wide as careful work
leaves open. Readings are averaged over five minutes, so that a logger's crowd of them counts for no more than it says.
What a whole channel may be off by (its instrument) and what all the sun may be off by (the sky noted by eye) enter the
covariance of the readings, so that neither is blamed on the build.

References:
    Weighted least squares with a Gaussian prior: Tarantola 2005, Inverse Problem Theory, ch. 3; scipy.optimize.least_squares.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from pydantic import Field
from scipy.linalg import cholesky, solve_triangular
from scipy.optimize import OptimizeResult, least_squares
from scipy.special import stdtrit

from drylamp.core.arrays import Array
from drylamp.core.builds.doubt import Doubtful
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Model, YesNo, require
from drylamp.core.forms import Option
from drylamp.core.text import Sentence, kelvin
from drylamp.core.trials.beside import FIRST_MINUTES, Beside
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.suspicions import suspicions
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.run import Run

BIN_S = 300.0
LEAST_READINGS = 4
TWIN_DOUBT = 0.015
"""How far the twin itself may be off at one reading, as a share of the rise over the air; from memory."""
NOISE_SHARE, LEAST_NOISE_K = 0.25, 0.15
"""What a reading scatters, as a share of its instrument's doubt."""
TELLS_NOTHING, TOO_ALIKE = 0.8, 0.95
FAR_PRIORS = 3.5
"""So many spreads from the textbook a parameter is doubted before the readings are not; from memory."""
GRAVE = ("unit", "channel", "swapped", "clock")
"""Suspicions that spoil whatever is learnt."""
FURTHEST = 3.0
"""No parameter leaves e^±3 of the textbook."""
STEP = 0.02
APART: dict[frozenset[str], str] = {
    frozenset(("loss", "leak")): "a windy hour, or a repeat with the seal taped over, would tell them apart",
    frozenset(("optical", "loss")): "an hour of cooling with the sun kept off would tell them apart",
    frozenset(("optical", "leak")): "an hour of cooling with the sun kept off would tell them apart",
    frozenset(("loss", "mass")): "readings until it stands still would tell them apart",
    frozenset(("optical", "mass")): "readings until it stands still would tell them apart",
}


class FittedParameter(Model):
    """One parameter with the range that holds it in 19 cases of 20; ``told`` says whether the readings decided it."""

    name: str
    title: str
    value: float
    low: float
    high: float
    told: YesNo
    departs: YesNo
    effect_k: float
    words: Sentence


class Fit(Model):
    """What a trial says of the twin's doubtful parameters."""

    parameters: list[FittedParameter]
    choices: list[Option] = Field(description="Parameters of this kind of build that may be asked for")
    warnings: list[Sentence]
    readings: int
    rms_before_k: float
    rms_after_k: float
    calibration: Calibration
    cause: str
    words: Sentence
    first: list[Sentence] = Field(
        description="What to look at before any of it is taken over; empty where it may be taken over as it stands"
    )

    def of(self, name: str) -> FittedParameter:
        """A parameter by name."""
        return next(p for p in self.parameters if p.name == name)


@dataclass(frozen=True)
class Binned:
    """Binned readings of all channels: node and span of each channel, times, values, scatter, shared doubt of a channel."""

    nodes: list[str]
    spans: list[slice]
    time_s: Array
    value_c: Array
    scatter_k: Array
    shared_k: list[float]

    def of(self, run: Run) -> Array:
        """The same readings as a run has them."""
        return np.concatenate([run.at(node, self.time_s[span]) for node, span in zip(self.nodes, self.spans, strict=True)])  # fmt: skip


def fit(at: Beside, names: list[str] | None = None) -> Fit:
    """Fit parameters by name (default: the first three that the kind doubts) to the undisturbed readings.

    Raises
    ------
    InputProblem
        a name is no doubtful parameter of this kind, or there are too few readings.
    """
    known = {row.name: row for row in kind_of(at.build).doubtful(at.build)}
    chosen = names or list(known)[:3]
    for name in chosen:
        require(name in known, "parameters", f"'{name}' is not known; allowed: {', '.join(known)}")
    data = binned_of(at)
    require(
        len(data.time_s) >= max(LEAST_READINGS, len(chosen) + 1), "readings",
        f"{len(data.time_s)} undisturbed readings five minutes apart; fitting {len(chosen)} parameters needs at least "
        f"{max(LEAST_READINGS, len(chosen) + 1)}",
    )  # fmt: skip
    return _solve(at, [known[name] for name in chosen], data)


def binned_of(at: Beside) -> Binned:
    """Undisturbed readings of all channels that the twin knows, by their means over five minutes."""
    nodes, spans, times, values, scatters, shared = [], [], [], [], [], []
    count = 0
    for channel in at.facts.inside():
        if channel.node not in at.likely.temperature_c:
            continue
        time, value, number = _binned(channel, at)
        if not len(time):
            continue
        noise = max(LEAST_NOISE_K, NOISE_SHARE * channel.doubt)
        air = at.air_at(time)
        scatters.append(np.hypot(noise / np.sqrt(number), TWIN_DOUBT * np.maximum(np.abs(value - air), 5.0)))
        nodes.append(channel.node)
        spans.append(slice(count, count + len(time)))
        times.append(time)
        values.append(value)
        shared.append(channel.doubt / 2.0)
        count += len(time)
    time_s, value_c, scatter_k = (np.concatenate([np.zeros(0), *part]) for part in (times, values, scatters))
    return Binned(nodes, spans, time_s, value_c, scatter_k, shared)


def _binned(channel: ChannelFacts, at: Beside) -> tuple[Array, Array, Array]:
    """Means of the undisturbed readings that the twin covers, over five minutes each: time, value, how many."""
    seconds, values = channel.seconds, np.array(channel.values)
    start = at.facts.started.timestamp()
    calm = np.array([not at.facts.disturbed(t) for t in channel.times])
    covered = ~np.isnan(at.twin_at(channel))
    kept = calm & covered & (seconds - start >= FIRST_MINUTES * 60.0)
    seconds, values = seconds[kept], values[kept]
    if not len(seconds):
        return seconds, values, seconds
    _, group = np.unique(np.floor((seconds - start) / BIN_S), return_inverse=True)
    number = np.bincount(group).astype(float)
    return np.bincount(group, seconds) / number, np.bincount(group, values) / number, number


def modelled(at: Beside, data: Binned, rows: Sequence[Doubtful], logs: Array) -> Array:
    """Readings as the twin has them with its doubtful parameters at e to such powers."""
    factors = {row.name: float(np.exp(value)) for row, value in zip(rows, logs, strict=True)}
    return data.of(at.run(Calibration.made(factors)))


def _solve(at: Beside, rows: list[Doubtful], data: Binned) -> Fit:
    prior = np.array([row.prior for row in rows])
    textbook = modelled(at, data, rows, np.zeros(len(rows)))
    found = _least(at, rows, data, np.zeros(len(rows)), covariance_of(at, data))
    # what the sun may be off by counts as it counts for the build that was found, not for the textbook's
    if not at.first_c:
        factors = {row.name: float(np.exp(value)) for row, value in zip(rows, found.x, strict=True)}
        found = _least(at, rows, data, found.x, covariance_of(at, data, factors))
    count = len(data.time_s)
    jacobian = np.asarray(found.jac)
    freedom = max(count - len(rows), 1)
    looseness = max(1.0, float((found.fun[:count] ** 2).sum()) / freedom)
    information = jacobian[:count].T @ jacobian[:count] / looseness
    covariance = np.linalg.inv(information + np.diag(1.0 / prior**2))
    wide = float(stdtrit(freedom, 0.975)) if freedom > 2 else 4.3
    after = modelled(at, data, rows, found.x)
    parameters = [
        _parameter(
            row, float(found.x[k]), float(np.sqrt(covariance[k, k])), wide, _effect(at, data, rows, found.x, after, k)
        )
        for k, row in enumerate(rows)
    ]
    return _told(at, rows, parameters, information, data, textbook, after)


def _least(at: Beside, rows: list[Doubtful], data: Binned, first: Array, covariance: Array) -> OptimizeResult:
    """Logarithms of the factors that leave least misfit, from some that are near; readings whitened, priors below them."""
    prior, lower = np.array([row.prior for row in rows]), cholesky(covariance, lower=True)

    def white(values: Array) -> Array:
        return np.asarray(solve_triangular(lower, values, lower=True))

    def misfit(logs: Array) -> Array:
        return np.concatenate([white(data.value_c - modelled(at, data, rows, logs)), logs / prior])

    def slopes(logs: Array) -> Array:
        here = modelled(at, data, rows, logs)
        columns = [
            -white((modelled(at, data, rows, logs + STEP * np.eye(len(rows))[k]) - here) / STEP)
            for k in range(len(rows))
        ]
        return np.vstack([np.column_stack(columns), np.diag(1.0 / prior)])

    bounds = (-FURTHEST, FURTHEST)
    return least_squares(misfit, first, jac=slopes, bounds=bounds, x_scale=prior, xtol=1e-4, ftol=1e-5, max_nfev=25)


def covariance_of(at: Beside, data: Binned, factors: dict[str, float] | None = None) -> Array:
    """Of the readings: each one's scatter, each channel's own error, and the sun's, which moves them all; the sun's for the textbook, or for a build of some factors."""
    out = np.diag(data.scatter_k**2)
    for span, shared in zip(data.spans, data.shared_k, strict=True):
        out[span, span] += shared**2
    ends = (at.low, at.high) if factors is None else at.under_both_suns(factors)
    sun = (data.of(ends[1]) - data.of(ends[0])) / 4.0  # the noted range holds the sun in 19 cases of 20
    return np.asarray(out + np.outer(sun, sun))


def _effect(at: Beside, data: Binned, rows: list[Doubtful], logs: Array, after: Array, k: int) -> float:
    """Mean size of what one parameter's departure from the textbook does to the readings, K."""
    without = logs.copy()
    without[k] = 0.0
    return float(np.sqrt(np.mean((after - modelled(at, data, rows, without)) ** 2)))


def _parameter(row: Doubtful, log: float, sd: float, wide: float, effect_k: float) -> FittedParameter:
    value, low, high = (float(np.exp(log + k * wide * sd)) for k in (0, -1, 1))
    told = sd < TELLS_NOTHING * row.prior
    departs = told and not low <= 1.0 <= high
    if not told:
        words = f"{row.title}: the readings do not tell."
    elif departs:
        words = f"{row.title} × {value:.2f} ({low:.2f} to {high:.2f}): {row.more if value > 1 else row.less}."
    else:
        words = f"{row.title} × {value:.2f} ({low:.2f} to {high:.2f}): as the twin thinks."
    return FittedParameter(
        name=row.name, title=row.title, value=round(value, 4), low=round(low, 4), high=round(high, 4), told=told,
        departs=departs, effect_k=round(effect_k, 2), words=words,
    )  # fmt: skip


def _told(
    at: Beside, rows: list[Doubtful], parameters: list[FittedParameter], information: Array, data: Binned,
    textbook: Array, after: Array,
) -> Fit:  # fmt: skip
    warnings = [p.words for p in parameters if not p.told] + _alike(rows, information)
    departing = [p for p in parameters if p.departs]
    main = max(departing, key=lambda p: p.effect_k, default=None)
    before, left = (float(np.sqrt(np.mean((data.value_c - twin) ** 2))) for twin in (textbook, after))
    words = f"The readings lie {kelvin(before)} off the textbook twin and {kelvin(left)} off the fitted one (root mean square)."
    if main is not None:
        row = next(r for r in rows if r.name == main.name)
        words += f" Likeliest: {row.more if main.value > 1 else row.less} (× {main.value:.2f}, {main.low:.2f} to {main.high:.2f})."
        if (main.value > 1) == row.bad_above:
            words += f" To change: {row.cure}."
    else:
        words += " No parameter departs from the textbook by more than its doubt."
    return Fit(
        parameters=parameters,
        choices=[
            Option(value=row.name, title=row.title) for row in kind_of(at.build).doubtful(at.build) if row.is_offered
        ],
        warnings=warnings,
        readings=len(data.time_s),
        rms_before_k=round(before, 2),
        rms_after_k=round(left, 2),
        calibration=Calibration.made({p.name: p.value for p in parameters}),
        first=_first(at, rows, parameters),
        cause="" if main is None else main.name,
        words=words,
    )


def _first(at: Beside, rows: list[Doubtful], parameters: list[FittedParameter]) -> list[str]:
    """A fit at its bound, or far outside what careful work leaves open, says more of the readings than of the build."""
    far = [
        (row, found)
        for row, found in zip(rows, parameters, strict=True)
        if found.told
        and (abs(np.log(found.value)) > FAR_PRIORS * row.prior or abs(np.log(found.value)) > FURTHEST - 0.05)
    ]
    found = suspicions(at)
    grave = [odd.text for odd in found if odd.kind in GRAVE]
    if not far:
        return [f"Before any of this is taken over: {text}" for text in grave]
    named = ", ".join(
        f"{row.title} × {one.value:.2f} where careful work leaves {100 * (np.exp(row.prior) - 1):.0f} % open"
        for row, one in far
    )
    return [
        f"Before any of this is taken over: {named}. Readings that are off are likelier than such a build.",
        *(
            [odd.text for odd in found]
            or ["Look first at the units of the readings, at which probe is on which part, at shade, and at the clock."]
        ),
    ]


def _alike(rows: list[Doubtful], information: Array) -> list[str]:
    """Pairs of parameters that push the readings the same way."""
    size = np.sqrt(np.maximum(np.diag(information), 1e-12))
    alike = information / np.outer(size, size)
    out = []
    for i, one in enumerate(rows):
        for k in range(i + 1, len(rows)):
            if abs(alike[i, k]) > TOO_ALIKE:
                hint = APART.get(frozenset((one.name, rows[k].name)), "another kind of day would tell them apart")
                out.append(f"{one.title.capitalize()} and {rows[k].title} push these readings the same way; {hint}.")
    return out
