"""The command line: drylamp serve | demo | run | atlas | sum | schema | export | import | stand-in | doctor."""

from __future__ import annotations

import os
import sys
from typing import Any

import click

from drylamp.commands.atlas import atlas
from drylamp.commands.case import run, schema
from drylamp.commands.doctor import doctor
from drylamp.commands.serving import demo, serve
from drylamp.commands.shared import fail
from drylamp.commands.stand_in import stand_in
from drylamp.commands.sums import quick_sum
from drylamp.commands.yard import export_yard, import_yard
from drylamp.languages import LANGUAGE, LanguageProblem, folder_of


class OneLine(click.Group):
    """Commands whose every refusal is one line on stderr and exit 2."""

    def main(self, *args: Any, **kwargs: Any) -> Any:
        """Run a command."""
        try:
            return super().main(*args, **{**kwargs, "standalone_mode": False})
        except click.exceptions.NoArgsIsHelpError as error:
            click.echo(error.format_message())
            sys.exit(0)
        except click.ClickException as error:
            fail(error.format_message().replace("\n", " "))
        except (click.Abort, KeyboardInterrupt):
            sys.exit(130)
        except BrokenPipeError:  # whoever read it has closed the pipe
            sys.stdout = open(os.devnull, "w")  # noqa: SIM115
            sys.exit(0)
        except OSError as error:
            sys.stdout = open(os.devnull, "w")  # noqa: SIM115
            fail(f"it could not be written or read ({error.strerror or error})")


@click.group(cls=OneLine)
@click.version_option(package_name="drylamp")
@click.option(
    "--language", metavar="NAME", help="A language that was laid in by `make language`; English where none is named."
)
def main(language: str | None) -> None:
    """Dry Lamp: a workbench for people who build things that the sun heats."""
    if language is not None and LANGUAGE not in os.environ:
        _begin_anew(language)


def _begin_anew(language: str) -> None:
    """In its language from the first module on."""
    try:
        folder = folder_of(language)
    except LanguageProblem as problem:
        fail(str(problem))
    if folder is not None:
        os.environ[LANGUAGE] = str(folder.resolve())
        os.execv(sys.executable, [sys.executable, *sys.orig_argv[1:]])


for command in (serve, demo, run, atlas, quick_sum, schema, export_yard, import_yard, stand_in, doctor):
    main.add_command(command)


if __name__ == "__main__":
    main()
