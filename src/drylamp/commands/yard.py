"""A yard file out of the data and into it."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import click

from drylamp.commands.shared import DATA, check_target, data_file, plain_errors, refused, whole_file


@click.command("export")
@click.argument("file", type=click.Path(path_type=Path))
@DATA
def export_yard(file: Path, data: Path | None) -> None:
    """Write the whole yard as one FILE (a zip)."""
    from drylamp.store.database import Database
    from drylamp.web.yard import door

    path = data_file(data)
    with plain_errors():
        if not path.exists():
            raise refused("--data", f"there is no data file at {path}; name the folder that holds it")
        check_target(file, "FILE")
        store = Database(path)
        try:
            with whole_file(file, "FILE") as part, part.open("wb") as out, store.session() as db:
                made = door.write(db, out, datetime.now(UTC).isoformat(timespec="seconds"))
        finally:
            store.close()
    builds = sum(len(site.builds) for site in made.sites)
    click.echo(
        f"{file}: {len(made.sites)} places, {builds} builds" + "".join(f"\nleft out: {what}" for what in made.left_out)
    )


@click.command("import")
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@DATA
@click.option("--yes", is_flag=True, help="Take it in; without this it is only looked at.")
def import_yard(file: Path, data: Path | None, yes: bool) -> None:
    """Look at a yard FILE, and with --yes take it in beside what there is."""
    import sqlite3

    from drylamp.core.text import plain
    from drylamp.formats.yard.reader import YardReader
    from drylamp.store.database import Database
    from drylamp.web.yard import door

    path = data_file(data)
    with plain_errors():
        if not yes and not path.exists():
            with file.open("rb") as given:
                seen = YardReader(given).preview([])
            click.echo("\n".join(plain(words) for words in seen.words))
            click.echo("nothing was written; say --yes to take it in")
            return
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        store = Database(path)
        try:
            with store.session() as db, file.open("rb") as given:
                for words in door.preview(db, given).words:
                    click.echo(plain(words))
                if yes:
                    new = door.take_in(db, given)
                    click.echo(f"taken in: {len(new)} places")
                else:
                    click.echo("nothing was written; say --yes to take it in")
        except sqlite3.IntegrityError:
            raise refused("FILE", "two rows in it contradict each other, so nothing was taken in") from None
        finally:
            store.close()
