"""Cells of sheets that leave the program: what a person typed must not run as a formula in whatever opens it.

Rule: OWASP, "CSV Injection": text that begins with = + - @, a tab or a return gets an apostrophe before it; numbers stay.
"""

from __future__ import annotations

RUNS = ("=", "+", "-", "@", "\t", "\r", "\n", "＝", "＋", "－", "＠")
"""What a spreadsheet takes for the beginning of a formula; the wide forms of East Asian keyboards too."""


def inert(cell: object) -> object:
    """A cell that a spreadsheet shows as it was typed."""
    if not isinstance(cell, str) or not cell.lstrip(" ").startswith(RUNS) or _is_number(cell):
        return cell
    return "'" + cell


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True
