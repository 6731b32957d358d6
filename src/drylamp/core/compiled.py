"""The one place where the options of compiled code are set."""

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba

LOOSE = {"contract", "nsz", "arcp"}
"""Freedoms that change nothing but the last digit: fused multiply-add, one zero, division by way of the inverse."""

F = TypeVar("F", bound=Callable[..., Any])


def compiled(function: F) -> F:
    """Compile with numba: cached on disk, and free of the interpreter's lock so that threads may share a sweep."""
    return cast(F, numba.njit(cache=True, nogil=True, error_model="numpy", fastmath=LOOSE)(function))


def inlined(function: F) -> F:
    """Compile a small law so that the loop calling it pays nothing for the call."""
    return cast(F, numba.njit(cache=True, nogil=True, error_model="numpy", inline="never", fastmath=LOOSE)(function))


def woven(function: F) -> F:
    """Write a helper that takes arrays into the loop that uses it.

    Handing an array to another compiled function costs a locked count up and down; inside hot loops that is dearer than the work.
    """
    return cast(F, numba.njit(cache=True, nogil=True, error_model="numpy", inline="always", fastmath=LOOSE)(function))
