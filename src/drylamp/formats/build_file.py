"""A build as a file: JSON with a version, a published schema, and a clear word when the version is newer."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import InputProblem, Model
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.twin.case import FORMAT
from drylamp.formats.json_text import check_content, read_json


class BuildFile(Model):
    """What a build file holds."""

    dry_lamp: Literal["build"] = "build"
    format: Literal[1] = 1
    name: Annotated[str, Field(min_length=1, max_length=120)]
    spec: BuildSpec
    load: LoadSpec | None = None


def read_build(text: str) -> BuildFile:
    """Read a build file.

    Raises:
        InputProblem: no JSON, no build file, or made by a newer version.
        pydantic.ValidationError: a field is wrong.
    """
    raw = read_object(text, "file")
    if raw.get("dry_lamp") != "build":
        raise InputProblem("dry_lamp", 'this is no build file; it should say "dry_lamp": "build"')
    refuse_newer(raw, "format")
    return BuildFile.model_validate(raw)


def read_object(text: str, field: str) -> dict[str, object]:
    """Parse a JSON object or say on which line it breaks."""
    raw = read_json(text, field)
    check_content(raw)
    if not isinstance(raw, dict):
        raise InputProblem(field, "the file must hold one JSON object")
    return raw


def refuse_newer(raw: dict[str, object], field: str) -> None:
    """Say so when a file was made by a newer version."""
    version = raw.get("format", FORMAT)
    if isinstance(version, int) and not isinstance(version, bool) and version > FORMAT:
        raise InputProblem(
            field,
            f"format {version} was given; this version reads up to format {FORMAT}: update Dry Lamp, the file is untouched",
        )


def write_build(name: str, spec: Build, load: Load | None) -> str:
    """Write a build file's text."""
    return BuildFile(name=name, spec=spec, load=load).model_dump_json(indent=2) + "\n"
