"""A case run from a file, and the schemas of the files there are."""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING

import click

from drylamp import compiles_first
from drylamp.commands.shared import check_target, plain_errors, standard_input, text_of, whole_file

if TYPE_CHECKING:
    from pydantic import BaseModel


@click.command()
@click.argument("case", type=click.Path(path_type=Path))
@click.option(
    "--csv", "csv_out", type=click.Path(path_type=Path), help="Write temperatures, watts and draws in time here."
)
def run(case: Path, csv_out: Path | None) -> None:
    """Run one case file (- reads standard input) and print its outcome as one JSON object."""
    from drylamp.core.engine import run_case
    from drylamp.core.sky.weather import WeatherFile
    from drylamp.core.twin.case import Case
    from drylamp.formats.build_file import read_object, refuse_newer
    from drylamp.formats.weather_file import load_weather

    if compiles_first():
        click.echo("drylamp: compiling for the first time; later runs start at once", err=True)
    with plain_errors():
        from_input = str(case) == "-"
        name = "standard input" if from_input else str(case)
        raw = read_object(standard_input() if from_input else text_of(case), name)
        if csv_out is not None:
            check_target(csv_out)
        refuse_newer(raw, "format")
        made = Case.model_validate(raw)
        records = (
            load_weather(made.weather, Path() if from_input else case.parent)
            if isinstance(made.weather, WeatherFile)
            else None
        )
        outcome, done = run_case(made, records)
        if csv_out is not None:
            from drylamp.formats.run_csv import write_run_csv

            with whole_file(csv_out) as part, part.open("w", newline="", encoding="utf-8") as file:
                write_run_csv(file, made.site.zone, done)
        click.echo(outcome.model_dump_json(indent=2))


@click.command()
@click.argument("what", type=click.Choice(["case", "build", "yard", "verdict"]))
def schema(what: str) -> None:
    """Print the JSON Schema of a file format."""
    from drylamp.core.twin.case import Case
    from drylamp.formats.build_file import BuildFile
    from drylamp.formats.verdict_file import VerdictFile
    from drylamp.formats.yard.parts import YardFile

    models: dict[str, type[BaseModel]] = {"case": Case, "build": BuildFile, "yard": YardFile, "verdict": VerdictFile}
    click.echo(json.dumps(models[what].model_json_schema(), indent=2))
