"""Drying curves fitted to weighings, and when a batch will be done by them.

A curve is of the moisture ratio R = (X − X_e)/(X₀ − X_e), from 1 fresh to 0 in balance with the air.

References:
    Lewis 1921, R = exp(−k t); Page 1949, R = exp(−k tⁿ); Henderson & Pabis 1961, R = a exp(−k t); thin-layer drying by ASABE S448.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import InputProblem, Model, require

LEAST_POINTS = 4
DRY_ENOUGH, WET_ENOUGH = 1e-4, 1.5
"""Ratios outside these are no moisture ratios."""
SIGMAS = 2.0
"""A doubt is two standard deviations."""

Curve = Callable[..., Array]


class ThinLayerFit(Model):
    """A curve fitted to a batch.

    Attributes:
        name, title: of the curve
        parameters, doubts: its numbers by name, time in hours
        r2, rmse: how well it fits, in moisture ratio
        done_h, done_doubt_h: when the ratio is at the wanted one; none where it never is, or nothing was wanted
    """

    name: str
    title: str
    parameters: dict[str, float]
    doubts: dict[str, float]
    r2: float
    rmse: float
    done_h: float | None
    done_doubt_h: float | None


@dataclass(frozen=True)
class _Form:
    """One of the curves: its numbers, where a fit begins, its values, and when it is at a ratio."""

    name: str
    title: str
    parameters: tuple[str, ...]
    first: Callable[[float], tuple[float, ...]]
    at: Curve
    when: Callable[..., float]


def _lewis_when(ratio: float, k: float) -> float:
    return -math.log(ratio) / k


def _page_when(ratio: float, k: float, n: float) -> float:
    return float((-math.log(ratio) / k) ** (1.0 / n))


def _henderson_when(ratio: float, a: float, k: float) -> float:
    return math.log(a / ratio) / k


FORMS = (
    _Form("lewis", "Lewis", ("k",), lambda k: (k,), lambda t, k: np.exp(-k * t), _lewis_when),
    _Form("page", "Page", ("k", "n"), lambda k: (k, 1.0), lambda t, k, n: np.exp(-k * np.power(t, n)), _page_when),
    _Form(
        "henderson-pabis",
        "Henderson and Pabis",
        ("a", "k"),
        lambda k: (1.0, k),
        lambda t, a, k: a * np.exp(-k * t),
        _henderson_when,
    ),
)


def moisture_ratio(moisture: Array, fresh: float, balance: float) -> Array:
    """(X − X_e)/(X₀ − X_e) of moisture contents, dry basis.

    Raises
    ------
    InputProblem
        it was no wetter fresh than in balance with the air.
    """
    require(
        fresh > balance,
        "fresh",
        f"{fresh:.3g} kg/kg was given, the air's balance is {balance:.3g}; there is nothing to dry",
    )
    return np.asarray((moisture - balance) / (fresh - balance))


def thin_layer_fits(hours: Array, ratio: Array, wanted: float | None = None) -> list[ThinLayerFit]:
    """Fit all three curves, the best first.

    Parameters
    ----------
    hours
        of drying, rising from 0, shape (n,)
    ratio
        moisture ratio at each, shape (n,)
    wanted
        ratio at which it is done

    Raises
    ------
    InputProblem
        too few weighings, or ratios that are none.
    """
    hours, ratio = np.asarray(hours, dtype=float), np.asarray(ratio, dtype=float)
    require(len(hours) >= LEAST_POINTS, "weighings", f"{len(hours)} were given; a curve needs {LEAST_POINTS} at least")
    require(bool((np.diff(hours) > 0.0).all()), "hours", "they have to rise from one weighing to the next")
    good = bool(((ratio > DRY_ENOUGH) & (ratio < WET_ENOUGH)).all())
    require(good, "weighings", "one is drier than the air allows, or wetter than fresh; look at that weight again")
    require(ratio[-1] < ratio[0], "weighings", "they do not fall; nothing has dried yet")
    found = [fit for form in FORMS if (fit := _fitted(form, hours, ratio, wanted)) is not None]
    if not found:
        raise InputProblem("weighings", "no drying curve goes through them; look for a weight that stands out")
    return sorted(found, key=lambda fit: fit.rmse)


def _fitted(form: _Form, hours: Array, ratio: Array, wanted: float | None) -> ThinLayerFit | None:
    from scipy.optimize import curve_fit  # slow to import, and only trials ask for it

    later = hours > 0.0
    begin = max(float(np.mean(-np.log(ratio[later]) / hours[later])), 1e-3)
    try:
        at, spread = curve_fit(form.at, hours, ratio, p0=form.first(begin), bounds=(1e-6, np.inf))
    except RuntimeError:  # no curve of this form comes near
        return None
    off = ratio - form.at(hours, *at)
    sigma = np.sqrt(np.maximum(np.diag(spread), 0.0))
    done, doubt = (None, None) if wanted is None else _done(form, at, spread, wanted)
    return ThinLayerFit(
        name=form.name, title=form.title, parameters=dict(zip(form.parameters, map(float, at), strict=True)),
        doubts=dict(zip(form.parameters, (SIGMAS * float(s) for s in sigma), strict=True)),
        r2=1.0 - float((off**2).sum() / ((ratio - ratio.mean()) ** 2).sum()), rmse=float(np.sqrt((off**2).mean())), done_h=done, done_doubt_h=doubt,
    )  # fmt: skip


def _done(form: _Form, at: Array, spread: Array, wanted: float) -> tuple[float | None, float | None]:
    """When a curve is at a ratio, and its doubt by the covariance of its numbers (first order)."""
    if not 0.0 < wanted < 1.0:
        return None, None
    hours = form.when(wanted, *at)
    slope = np.array([_moved(form, at, k, wanted) for k in range(len(at))])
    return hours, SIGMAS * float(np.sqrt(max(slope @ spread @ slope, 0.0)))


def _moved(form: _Form, at: Array, k: int, wanted: float) -> float:
    """How the hour moves with one of the numbers."""
    step = np.zeros(len(at))
    step[k] = 1e-5 * max(abs(float(at[k])), 1e-6)
    return (form.when(wanted, *(at + step)) - form.when(wanted, *(at - step))) / (2.0 * float(step[k]))
