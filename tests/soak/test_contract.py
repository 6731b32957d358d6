"""The contract is whole: half a minute of schemathesis with a fixed seed."""

from __future__ import annotations

import json
from pathlib import Path

from tests.seeded import copy_to
from tests.soak.contract import ask_everything

MANY = 10
"""Questions that even a slow, busy machine asks in that time; how many more is a matter of its speed."""


def test_every_answer_is_as_the_document_says(tmp_path: Path):
    found = ask_everything(tmp_path, seconds=25, filled=copy_to)
    assert found.failures == []
    assert found.generated >= MANY
    kept = Path(__file__).parents[2] / "docs" / "openapi.json"
    assert json.loads(found.document) == json.loads(kept.read_text(encoding="utf-8")), "make api"
