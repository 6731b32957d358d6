"""One design over many places and years."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

import click

from drylamp.commands.shared import check_target, plain_errors, refused, text_of, whole_file

if TYPE_CHECKING:
    from concurrent.futures import Executor

CLUSTER_PATIENCE_S = 20


@click.command()
@click.argument("case", type=click.Path(path_type=Path))
@click.option("--sites", "places", required=True, type=click.Path(path_type=Path), help="CSV: name, latitude_deg, longitude_deg, and elevation_m, time_zone, weather (a file) where known.")  # fmt: skip
@click.option("--years", default=10, show_default=True, type=click.IntRange(1, 1000), help="Years at each place, made up, or of its weather file.")  # fmt: skip
@click.option("--out", default=Path("atlas.csv"), show_default=True, type=click.Path(path_type=Path), help="Tidy table, a line a month; .parquet writes Parquet.")  # fmt: skip
@click.option("--workers", default=2, show_default=True, type=click.IntRange(1, 256), help="Processes on this machine.")
@click.option("--cluster", metavar="ADDRESS", help="A Dask scheduler's address, in place of processes here.")
def atlas(case: Path, places: Path, years: int, out: Path, workers: int, cluster: str | None) -> None:
    """Run one design over many places and years; stopped, it goes on where it was when it is run again."""
    from drylamp.core.atlas import MonthRow, in_order, pieces_of
    from drylamp.core.atlas import atlas as run_all
    from drylamp.core.twin.case import Case
    from drylamp.formats import atlas_file
    from drylamp.formats.build_file import read_object, refuse_newer

    with plain_errors():
        raw = read_object(text_of(case), str(case))
        refuse_newer(raw, "format")
        pieces = pieces_of(Case.model_validate(raw), atlas_file.read_places(places), years)
        check_target(out, "--out")
        if out.suffix == atlas_file.PARQUET:
            atlas_file.check_parquet()
        journal = out.with_name(out.name + ".years")
        kept, rows = atlas_file.read_journal(journal), list[MonthRow]()
        with _executor(workers, cluster) as (executor, at_once, is_loss), journal.open("a", encoding="utf-8") as note:
            for count, (piece, found) in enumerate(run_all(pieces, executor, at_once, kept, is_loss), start=1):
                if piece.key not in kept:
                    atlas_file.add_to_journal(note, piece.key, found)
                rows += found
                click.echo(f"drylamp: {count} of {len(pieces)} years", err=True)
        with whole_file(out, "--out") as part:
            atlas_file.write_table(part, in_order(rows))
        journal.unlink()


@contextmanager
def _executor(workers: int, cluster: str | None) -> Iterator[tuple[Executor, int, Callable[[BaseException], bool]]]:
    """Processes here or a cluster's workers, how many pieces to hand out at once, and what of its errors is the loss of a worker."""
    if cluster is None:
        from concurrent.futures import ProcessPoolExecutor
        from multiprocessing import get_context

        with ProcessPoolExecutor(workers, mp_context=get_context("spawn")) as pool:
            yield pool, 2 * workers, lambda error: False
        return
    try:
        from distributed import Client, KilledWorker
    except ImportError:
        raise refused("--cluster", "it needs Dask: pip install 'drylamp[cluster]'") from None
    try:
        client = Client(cluster, timeout=CLUSTER_PATIENCE_S)
    except (OSError, ValueError) as error:
        raise refused("--cluster", f"no scheduler answers at {cluster} ({error})") from None
    with client, client.get_executor(pure=False) as pool:
        yield pool, 4 * max(len(client.scheduler_info()["workers"]), 1), lambda error: isinstance(error, KilledWorker)
