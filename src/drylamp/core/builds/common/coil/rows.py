"""Rows of pipe side by side, whose flows are read one by one."""

from __future__ import annotations

from drylamp.core.loads.load import Reader

ROWS = "rows"
"""What a protocol calls all rows that lie side by side."""
_ROW = "row-"


def row_readers(count: int) -> dict[str, list[Reader]]:
    """Each row's own flow; nothing where there is only one."""
    rows = [Reader(f"{_ROW}{k}", f"row {k}", f"{_ROW}{k}") for k in range(1, count + 1)]
    return {ROWS: rows} if count > 1 else {}


def row_number(node: str) -> int | None:
    """Which row a flow is of, counted from 1; none where it is of none."""
    rest = node.removeprefix(_ROW)
    return int(rest) if rest != node and rest.isdigit() else None
