"""Tables as text files hold them: bytes turned into letters, letters into numbered rows of cells.

Nothing is put right in silence: what a row cannot be read as is said with its number, and what was read in another way
than it stands is a note.
"""

from __future__ import annotations

import csv
from collections.abc import Iterator
from dataclasses import dataclass, field

from drylamp.core.checks import InputProblem, Model, require
from drylamp.formats.json_text import CONTROL

MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 400_000, 400, 1000
DELIMITERS = (";", "\t", ",", "|")
MARKS = (
    (b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe\x00\x00", "utf-32"), (b"\x00\x00\xfe\xff", "utf-32"),
    (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"),
)  # fmt: skip
"""What a file begins with that says how its letters are written."""


class RefusedRow(Model):
    """A row that cannot be used, by its number in the file (the header is row 1)."""

    row: int
    reason: str


@dataclass(frozen=True)
class Table:
    """A file's table: names of its columns, rows by their number, rows that cannot be used, and notes on what was read otherwise than it stands."""

    header: list[str]
    rows: list[tuple[int, list[str]]]
    delimiter: str
    refused: list[RefusedRow] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    surplus: list[tuple[int, list[str]]] = field(default_factory=list)
    """Rows with more cells than there are columns: nobody knows which belongs where."""


def decode(data: bytes) -> tuple[str, str]:
    """A file's letters, and a note where they are not written as UTF-8.

    Raises
    ------
    InputProblem
        they are written in no way that is known here.
    """
    for mark, encoding in MARKS:
        if data.startswith(mark):
            return _decoded(data, encoding), "" if encoding == "utf-8-sig" else f"The file is written as {encoding.upper()}."  # fmt: skip
    for encoding, zeros in (("utf-16-le", data[1:400:2]), ("utf-16-be", data[0:400:2])):
        if len(zeros) > 4 and zeros.count(0) > 0.8 * len(zeros):
            return _decoded(data, encoding), "The file is written as UTF-16."
    try:
        return data.decode("utf-8"), ""
    except UnicodeDecodeError:
        return _decoded(data, "cp1252"), "The file is no UTF-8; its letters were read as Windows-1252. Look at the names of its columns."  # fmt: skip


def _decoded(data: bytes, encoding: str) -> str:
    try:
        return data.decode(encoding)
    except UnicodeDecodeError as error:
        raise InputProblem(
            "text", f"byte {error.start + 1} cannot be read as {encoding}; save the file as UTF-8 and send it again"
        ) from None


def lines_of(text: str) -> list[str]:
    """Lines, however they end (a feed, a return, or both)."""
    return text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n").split("\n")


def read_table(text: str) -> Table:
    """Read a table: the header is the first line, each line is a row.

    Raises
    ------
    InputProblem
        the file is empty, has one column only, or more rows or columns than may be.
    """
    require(bool(text.strip("\ufeff \r\n\t")), "text", "the file is empty; choose another file")
    lines = lines_of(text)
    require(
        len(lines) <= MOST_ROWS + 2, "text", f"the file has {len(lines)} rows; at most {MOST_ROWS} at once, split it"
    )
    first = next(k for k, line in enumerate(lines) if line.strip())
    delimiter = _delimiter(lines[first])
    require(
        delimiter in lines[first], "text",
        f"row {first + 1} has only one column; columns must be split by comma, semicolon, tab or |",
    )  # fmt: skip
    names, why = _cells(lines[first], delimiter)
    require(not why, "text", f"row {first + 1}, which names the columns, {why}")
    while len(names) > 1 and not names[-1].strip() and len(names) > MOST_COLUMNS:
        names.pop()
    require(
        len(names) <= MOST_COLUMNS, "text",
        f"row {first + 1} has {len(names)} columns; at most {MOST_COLUMNS} can be read at once: leave out what is not needed",
    )  # fmt: skip
    notes: list[str] = []
    header = _named(names, notes)
    table = Table(header, [], delimiter, notes=notes)
    plain, most = '"' not in text and not CONTROL.search(text), len(header)
    for number, line in enumerate(lines[first + 1 :], start=first + 2):
        if plain and len(line) <= LONGEST_CELL:  # most files: nothing in them needs a closer look
            cells = line.split(delimiter)
            if len(cells) <= most and any(cells) and not line.isspace():
                table.rows.append((number, cells))
                continue
        if line and not line.isspace():
            _take(table, number, line)
    return table


def _take(table: Table, number: int, line: str) -> None:
    cells, why = _cells(line, table.delimiter)
    if why:
        table.refused.append(RefusedRow(row=number, reason=why))
    elif not any(cells):
        return
    elif len(cells) > len(table.header) and any(cell.strip() for cell in cells[len(table.header) :]):
        table.surplus.append((number, cells))
    else:
        table.rows.append((number, cells))


def cell_of(row: list[str], index: int) -> str:
    """A row's cell, empty where the row ends before it."""
    return row[index].strip() if index < len(row) else ""


def surplus_refused(table: Table) -> Iterator[RefusedRow]:
    """Rows with more cells than columns, as refused."""
    for number, cells in table.surplus:
        hint = "; if numbers are written with a comma, split columns by semicolons or put the numbers in quotes" if table.delimiter == "," else ""  # fmt: skip
        yield RefusedRow(row=number, reason=f"has {len(cells)} cells, and there are {len(table.header)} columns{hint}")


def _delimiter(line: str) -> str:
    bare = "".join(line.split('"')[::2])
    return max(DELIMITERS, key=lambda d: (bare.count(d), -DELIMITERS.index(d)))


def _cells(line: str, delimiter: str) -> tuple[list[str], str]:
    """Cells of a line, and why it cannot be used."""
    odd = CONTROL.search(line)
    if odd:
        return [], f"has a control character (U+{ord(odd.group()):04X}) in it"
    if '"' not in line:
        cells = line.split(delimiter)
    elif line.count('"') % 2:
        return [], "has a quote that is opened and not closed; a cell must end in its row"
    else:
        try:
            cells = next(csv.reader([line], delimiter=delimiter, skipinitialspace=True, strict=True))
        except (csv.Error, StopIteration):
            return [], "has quotes in the middle of a cell; put the whole cell in quotes"
    long = next((k for k, cell in enumerate(cells, start=1) if len(cell) > LONGEST_CELL), 0)
    if long:
        return [], f"has {len(cells[long - 1])} letters in cell {long}; a cell may have {LONGEST_CELL}"
    return cells, ""


def _named(names: list[str], notes: list[str]) -> list[str]:
    """Names of the columns, each its own."""
    out: list[str] = []
    seen: set[str] = set()
    for place, given in enumerate(names, start=1):
        bare = given.strip()
        name, again = bare or f"column {place}", 2
        while name.lower() in seen:
            name, again = f"{bare or 'column'} ({again})", again + 1
        if bare and name != bare:
            notes.append(f"Two columns are called {bare}; the one at place {place} is called {name} here.")
        seen.add(name.lower())
        out.append(name)
    return out
