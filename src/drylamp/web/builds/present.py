"""Builds of the store turned into what goes over the wire."""

from __future__ import annotations

import sqlite3

from drylamp.core.builds.registry import kind_of
from drylamp.store import calibrations
from drylamp.store.builds import BuildRow
from drylamp.store.calibrations import CalibrationRow
from drylamp.web.builds.models import BuildView, CalibrationView


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
        can_undo=row.undo_to is not None,
        created_at=row.created_at,
        removed=row.removed,
        calibration=None if calibration is None else calibration_view(calibration, row.revision),
    )


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
