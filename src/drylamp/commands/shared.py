"""What the commands have in common: refusals in one line, files in and out, where the data is."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

import click

if TYPE_CHECKING:
    from pydantic import ValidationError

    from drylamp.core.checks import InputProblem

DATA_NAME = "drylamp.sqlite3"
PORTS = click.IntRange(0, 65535)
PORT = click.option("--port", default=8411, show_default=True, type=PORTS, help="0 takes any free port.")
DATA = click.option("--data", type=click.Path(path_type=Path), help="Folder that holds the data file.")


@dataclass(frozen=True)
class Sharing:
    """Whether the house's network is let in, on which ports, and whether loggers may post without TLS."""

    share: bool = False
    share_port: int = 8443
    ingest_port: int | None = None


def SHARING(command: Callable[..., None]) -> Callable[..., None]:  # noqa: N802 - stands among the other options
    """Options of what is shared."""
    for option in (
        click.option("--ingest-port", type=PORTS, help="With --share: a plain HTTP port for loggers that know no TLS; it takes readings with a trial's token and nothing else."),
        click.option("--share-port", default=8443, show_default=True, type=PORTS, help="0 takes any free port."),
        click.option("--share", is_flag=True, help="Let paired phones of the house's network in, over TLS."),
    ):  # fmt: skip
        command = option(command)
    return command


def fail(message: str) -> NoReturn:
    """Say one line on stderr and leave with 2."""
    click.echo(f"drylamp: {message}", err=True)
    sys.exit(2)


def one_line(error: ValidationError | InputProblem) -> str:
    """All that is wrong, in one line."""
    from drylamp.core.checks import explain
    from drylamp.core.text import plain

    return plain("; ".join(f"{p.field}: {p.message}" if p.field else p.message for p in explain(error)))


def refused(field: str, message: str) -> InputProblem:
    """What is wrong with what was given, to be raised."""
    from drylamp.core.checks import InputProblem

    return InputProblem(field, message)


@contextmanager
def plain_errors() -> Iterator[None]:
    """Turn everything that can be explained into one line."""
    from pydantic import ValidationError

    from drylamp.core.checks import DryLampError, InputProblem

    try:
        yield
    except (ValidationError, InputProblem) as error:
        fail(one_line(error))
    except DryLampError as error:
        fail(str(error))


def text_of(path: Path, field: str = "") -> str:
    """A file's text, whatever it was encoded in.

    Raises
    ------
    InputProblem
        it cannot be read.
    """
    from drylamp.formats.table_text import decode

    try:
        return decode(path.read_bytes())[0]
    except OSError as error:
        raise refused(field, f"{path} cannot be read ({error.strerror or error})") from None


def standard_input() -> str:
    """All that is given on standard input."""
    from drylamp.formats.table_text import decode

    return decode(sys.stdin.buffer.read())[0]


def check_target(path: Path, option: str = "--csv") -> None:
    """Refuse a file that could not be written, before the work whose result it is to hold."""
    folder = path.absolute().parent
    if not folder.is_dir():
        raise refused(option, f"there is no folder {folder}; make it, or name another file")
    if path.is_dir() or not os.access(path if path.exists() else folder, os.W_OK):
        raise refused(option, f"{path} cannot be written; name another file")


@contextmanager
def whole_file(path: Path, option: str = "--csv") -> Iterator[Path]:
    """Where to write a file that is to be there whole or not at all; its name ends as the file's does."""
    is_device = path.exists() and not path.is_file()  # a pipe, say: it cannot be put in place afterwards
    part = path if is_device else path.with_name(f"{path.stem}.part{path.suffix}")
    try:
        yield part
        if not is_device:
            part.replace(path)
    except OSError as error:
        raise refused(option, f"{path} cannot be written ({error.strerror or error})") from None
    finally:
        if not is_device:
            part.unlink(missing_ok=True)


def data_file(folder: Path | None, demo: bool = False) -> Path:
    """The data file in a folder; where none was named, in the place that this machine keeps such things."""
    from platformdirs import user_data_path

    return (folder or user_data_path("drylamp") / ("demo" if demo else "yard")) / DATA_NAME
