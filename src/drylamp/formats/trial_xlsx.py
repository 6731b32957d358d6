"""A trial as a workbook: readings, events and what it was; text is typed as text, so that nothing in it runs."""

from __future__ import annotations

from datetime import UTC

from drylamp.core.checks import require
from drylamp.formats.trial_file import BASE_NAMES, TrialFile
from drylamp.formats.workbook import write_book

MOST_ROWS = 100_000
"""Some ten seconds of work; a sheet ends at 1,048,576 rows anyway."""


def write_xlsx(trial: TrialFile) -> bytes:
    """Write a trial's workbook.

    Raises
    ------
    InputProblem
        it has more readings than a workbook takes here.
    """
    require(
        len(trial.readings) <= MOST_ROWS, "trial",
        f"it has {len(trial.readings)} readings, and a workbook takes {MOST_ROWS}; take the CSV",
    )  # fmt: skip
    zone, units = trial.site.zone, {c.name: BASE_NAMES[c.quantity] for c in trial.channels}
    readings = (
        "readings", ("time (site)", "time (UTC)", "channel", "value", "unit", "typed", "source", "flag", "taken back"),
        (
            (r.time.astimezone(zone).replace(tzinfo=None), r.time.astimezone(UTC).replace(tzinfo=None), r.channel, r.value, units[r.channel],
             f"{r.typed} {r.unit}".strip(), r.source, r.flag, "yes" if r.withdrawn else "")
            for r in trial.readings
        ),
    )  # fmt: skip
    events = (
        "events", ("time (site)", "what", "channel", "note"),
        ((e.time.astimezone(zone).replace(tzinfo=None), e.kind, e.channel, e.note) for e in trial.events),
    )  # fmt: skip
    about = (("trial", trial.name), ("build", trial.build_name), ("revision", trial.build_revision), ("protocol", trial.protocol), ("site", trial.site.name), ("clock", trial.site.time_zone), ("remarks", trial.remarks))  # fmt: skip
    return write_book((readings, events, ("trial", ("what", "as it is"), about)))
