"""What is allowed is said in the program's own words, so that they can be said in another language."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

import pytest
from pydantic import AwareDatetime, Field, ValidationError

from drylamp.core.checks import Model, explain


class Asked(Model):
    whole: Annotated[int, Field(gt=0, le=9)] = 1
    share: Annotated[float, Field(ge=0, lt=1, allow_inf_nan=False)] = 0.5
    name: Annotated[str, Field(min_length=2, max_length=4, pattern="^[a-z]+$")] = "lid"
    sure: bool = False
    cut: Literal["flat", "quarter"] = "flat"
    day: date = date(2025, 6, 12)
    at: AwareDatetime | None = None
    rows: Annotated[list[int], Field(min_length=1, max_length=2)] = Field(default_factory=lambda: [1])


@pytest.mark.parametrize(("given", "said"), [
    ({"whole": 0}, "0 was given; allowed is greater than 0"),
    ({"whole": 10}, "10 was given; allowed is less than or equal to 9"),
    ({"whole": 1.5}, "1.5 was given; allowed is a valid integer, without a fraction"),
    ({"whole": "one"}, "'one' was given; allowed is a valid integer"),
    ({"share": -1}, "-1 was given; allowed is greater than or equal to 0"),
    ({"share": 1}, "1 was given; allowed is less than 1"),
    ({"share": float("nan")}, "nan was given; allowed is a finite number"),
    ({"share": "much"}, "'much' was given; allowed is a valid number"),
    ({"name": "a"}, "'a' was given; text should have at least 2 characters"),
    ({"name": "lidded"}, "'lidded' was given; text should have at most 4 characters"),
    ({"name": "LID"}, "'LID' was given; text should match pattern '^[a-z]+$'"),
    ({"name": 7}, "7 was given; allowed is a text"),
    ({"sure": "perhaps"}, "'perhaps' was given; allowed is true or false"),
    ({"cut": "round"}, "'round' was given; allowed is 'flat' or 'quarter'"),
    ({"day": "never"}, "'never' was given; allowed is a valid date, such as 2025-06-12"),
    ({"at": "2025-06-12T12:00:00"}, "'2025-06-12T12:00:00' was given; a time needs its distance to UTC, such as +02:00"),
    ({"rows": []}, "allowed is a list of at least 1 items, not of 0"),
    ({"rows": [1, 2, 3]}, "allowed is a list of at most 2 items, not of 3"),
    ({"rows": 3}, "3 was given; allowed is a list"),
    ({"whole": None}, "allowed is a valid integer"),
])  # fmt: skip
def test_what_is_allowed(given: dict[str, object], said: str):
    with pytest.raises(ValidationError) as refused:
        Asked.model_validate(given)
    assert [found.message for found in explain(refused.value)] == [said]
