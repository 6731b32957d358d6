"""Quick sums, one or a batch."""

from __future__ import annotations

import json
from pathlib import Path

import click

from drylamp.commands.shared import one_line, plain_errors, refused, text_of


@click.command("sum")
@click.argument("name", required=False)
@click.argument("pairs", nargs=-1)
@click.option("--list", "list_them", is_flag=True, help="List the sums.")
@click.option("--batch", type=click.Path(path_type=Path), help="One {sum, inputs} object per line.")
def quick_sum(name: str | None, pairs: tuple[str, ...], list_them: bool, batch: Path | None) -> None:
    """Do a quick sum: drylamp sum NAME key=value …"""
    from drylamp.core.sums.registry import SUMS

    if list_them:
        for entry in SUMS.values():
            click.echo(f"{entry.name:20} {entry.title}  ({', '.join(entry.inputs.model_fields)})")
        return
    with plain_errors():
        if batch is not None:
            _run_batch(text_of(batch))
        elif name is None:
            raise refused("NAME", "is missing; see drylamp sum --list")
        else:
            click.echo(json.dumps(_run_sum(name, _pairs(pairs))))


def _pairs(pairs: tuple[str, ...]) -> dict[str, object]:
    out: dict[str, object] = {}
    for pair in pairs:
        key, equals, text = pair.partition("=")
        if not equals:
            raise refused(pair, "write inputs as key=value")
        out[key] = _value(text)
    return out


def _value(text: str) -> object:
    for kind in (int, float):
        try:
            return kind(text)
        except ValueError:
            continue
    return text


def _run_sum(name: str, inputs: dict[str, object]) -> dict[str, object]:
    """Do a sum; where it wants a file's text, the path is given here and stays in the printed inputs."""
    from drylamp.core.sums.registry import find_sum

    found = find_sum(name)
    paths = {field: inputs[field] for field in found.file_fields if field in inputs}
    texts = {field: text_of(Path(str(path)), field) for field, path in paths.items()}
    answer = found.run({**inputs, **texts})
    return {**answer, "inputs": {**paths, **answer["inputs"]}}  # type: ignore[dict-item]


def _run_batch(text: str) -> None:
    from pydantic import ValidationError

    from drylamp.core.checks import InputProblem
    from drylamp.formats.json_text import read_json

    for number, line in enumerate(text.splitlines(), start=1):
        if not line.strip():
            continue
        try:
            asked = read_json(line)
            if not isinstance(asked, dict) or not isinstance(asked.get("inputs"), dict):
                raise refused("", 'needs {"sum": …, "inputs": {…}}')
            click.echo(json.dumps(_run_sum(str(asked.get("sum")), asked["inputs"])))
        except (ValidationError, InputProblem) as error:
            click.echo(json.dumps({"line": number, "error": one_line(error)}))
