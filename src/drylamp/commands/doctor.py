"""What stands on this machine."""

from __future__ import annotations

from pathlib import Path

import click

from drylamp.commands.shared import DATA, data_file, plain_errors


@click.command()
@DATA
def doctor(data: Path | None) -> None:
    """Print versions, the data file, its schema and free disk."""
    import platform
    import shutil
    from importlib.metadata import version

    from drylamp.store.database import Database, migrations

    path = data_file(data)
    names = ["drylamp", "flask", "pydantic", "numpy", "scipy", "numba", "pvlib"]
    click.echo(f"python {platform.python_version()}, " + ", ".join(f"{name} {version(name)}" for name in names))
    with plain_errors():
        if path.exists():
            click.echo(f"data {path} (schema {Database(path).version()} of {migrations()[-1][0]})")
        else:
            click.echo(f"data {path} (not there yet)")
    free = shutil.disk_usage(next(p for p in [path, *path.parents] if p.exists())).free
    click.echo(f"free disk {free / 1e9:.1f} GB")
