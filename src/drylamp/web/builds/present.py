"""Builds of the store turned into what goes over the wire."""

from __future__ import annotations

import sqlite3
from collections import Counter

from drylamp.core.builds.registry import kind_of
from drylamp.core.differences import differences
from drylamp.store import calibrations, trials
from drylamp.store.builds import BuildRow
from drylamp.store.calibrations import CalibrationRow
from drylamp.web.builds.models import BuildView, CalibrationView, RevisionView


def build_view(db: sqlite3.Connection, row: BuildRow) -> BuildView:
    """A build as shown, with the calibration in force."""
    calibration = calibrations.in_force(db, row.id)
    return BuildView(
        id=row.id,
        site_id=row.site_id,
        revision=row.revision,
        name=row.name,
        spot=row.spot,
        spec=row.spec,
        load=row.load,
        made=kind_of(row.spec).made(row.spec),
        aimed=kind_of(row.spec).aimed(row.spec),
        note=row.note,
        undoes=row.undoes,
        created_at=row.created_at,
        removed=row.removed,
        deleted=row.deleted,
        variant_of=row.variant_of,
        variant_from=row.variant_from,
        calibration=None if calibration is None else calibration_view(calibration, row.revision),
    )


def history(db: sqlite3.Connection, rows: list[BuildRow]) -> list[RevisionView]:
    """Revisions, newest first, each with what it changed."""
    tested = Counter(trial.build_revision for trial in trials.list_trials(db, rows[0].id)) if rows else Counter()
    before = [*rows[1:], None]
    return [
        RevisionView(**build_view(db, row).__dict__, changed=_changed(was, row), trials=tested[row.revision])
        for row, was in zip(rows, before, strict=True)
    ]


def _changed(was: BuildRow | None, now: BuildRow) -> list[str]:
    if was is None:
        return []
    plain = [
        (f"{what}: {a} → {b}") for what, a, b in (("name", was.name, now.name), ("spot", was.spot, now.spot)) if a != b
    ]
    return [
        *plain,
        *differences(was.spec, now.spec, "kind of build", kind_of(now.spec).parts),
        *differences(was.load, now.load, "load"),
    ]


def calibration_view(row: CalibrationRow, revision: int) -> CalibrationView:
    """A calibration as shown beside a build at a revision."""
    return CalibrationView(
        id=row.id,
        trial_id=row.trial_id,
        trial_name=row.trial_name,
        build_revision=row.build_revision,
        factors=row.factors,
        words=row.words,
        accepted_at=row.accepted_at,
        older=row.build_revision != revision,
    )
