"""Build files: round trip, newer versions, and files that are something else."""

import json

import pytest
from pydantic import ValidationError

from drylamp.core.checks import InputProblem, explain
from drylamp.formats.build_file import read_build, write_build


def test_round_trip(oven, stew):
    back = read_build(write_build("Hatbox", oven, stew))
    assert (back.name, back.spec, back.load) == ("Hatbox", oven, stew)


def test_newer_version_is_named(oven):
    raw = json.loads(write_build("x", oven, None))
    raw["format"] = 7
    raw["hologram"] = True
    with pytest.raises(InputProblem, match="format 7 was given; this version reads up to format 1"):
        read_build(json.dumps(raw))


@pytest.mark.parametrize(("text", "says"), [
    ("{", "not JSON .* line 1 column 1"),
    ("[]", "one JSON object"),
    ("{}", "this is no build file"),
])  # fmt: skip
def test_other_files(text: str, says: str):
    with pytest.raises(InputProblem, match=says):
        read_build(text)


def test_a_wrong_field_keeps_its_path(oven):
    raw = json.loads(write_build("x", oven, None))
    raw["spec"]["cover"]["thickness_m"] = -1
    with pytest.raises(ValidationError) as caught:
        read_build(json.dumps(raw))
    assert explain(caught.value)[0].field == "spec.cover.thickness_m"
