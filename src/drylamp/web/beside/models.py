"""Side by side over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.web.shared import DayQuery

ONE = r"(b[0-9]{1,9}(r[0-9]{1,6})?|t[0-9]{1,9})"
Named = Annotated[
    str,
    Field(
        pattern=f"^{ONE}$",
        description="b7 is build 7 as it is, b7r2 as it was at revision 2, t4 what trial 4 tested, with its readings",
    ),
]


class BesideQuery(DayQuery):
    """Two to four that stand side by side, the first of them what the others are held against."""

    of: Annotated[str, Field(pattern=f"^{ONE}(,{ONE}){{1,3}}$", description="Such names, as b7,b9,t4")]
    one_load: bool = Field(default=False, description="All with what is in the first")


class ApartQuery(DayQuery):
    """Two between which several things differ."""

    one: Named
    other: Named
