"""Builds over the wire."""

from __future__ import annotations

from pydantic import Field, RootModel

from drylamp.core.advice.made_of import MadeOf
from drylamp.core.builds.common.pile.claims import Claim
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Model, RowId, YesNo
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.text import Sentence
from drylamp.core.twin.calibration import Calibration
from drylamp.web.shared import NOTE, TITLE, FileText


class CalibrationView(Model):
    """What a trial taught the twin of a build; ``older`` when the build was changed since the trial."""

    id: int
    trial_id: int
    trial_name: str
    build_revision: int
    factors: Calibration
    words: Sentence
    accepted_at: str
    older: YesNo


class BuildDraft(Model):
    """What a person wants a build to be."""

    name: TITLE
    spot: str | None = None
    spec: BuildSpec
    load: LoadSpec | None = None
    note: NOTE = ""


class NewBuild(BuildDraft):
    """A new build at a site."""

    site_id: RowId


class BuildView(Model):
    """A build at a revision."""

    id: int
    site_id: int
    revision: int
    name: str
    spot: str | None
    spec: BuildSpec
    load: LoadSpec | None
    made: Sentence = Field(description="A few words on what it is made of")
    aimed: Sentence = Field(description="A few words on how it stands")
    note: str
    undoes: str | None = Field(description="The change that undo takes back; none where there is nothing to undo")
    created_at: str
    removed: YesNo
    deleted: YesNo
    variant_of: RowId | None = Field(description="The build that it branched off")
    variant_from: int | None = Field(description="And at which of its revisions")
    calibration: CalibrationView | None


class NewVariant(Model):
    """A variant's name."""

    name: TITLE


class TakeOver(Model):
    """A variant that a build is to become like."""

    variant: RowId
    anyway: YesNo = Field(default=False, description="Also where both changed the same since they branched off")
    put_away: YesNo = Field(default=True, description="Put the variant away then")


class BuildQuery(Model):
    """Which builds: those that stand there, or those that were put away or deleted."""

    site: RowId | None = None
    away: bool = False


class RevisionView(BuildView):
    """A build at a revision, what was changed to come to it, and how many trials tested it so."""

    changed: list[Sentence]
    trials: int


class RevisionList(RootModel[list[RevisionView]]):
    """Revisions, newest first."""


class Example(Model):
    """A build of the made-up yard."""

    name: str
    note: str
    spec: BuildSpec
    load: LoadSpec | None


class ExampleList(RootModel[list[Example]]):
    """Builds of the made-up yard."""


class ImportBuild(FileText):
    """A build file for a site."""

    site_id: RowId


class BuildList(RootModel[list[BuildView]]):
    """Builds."""


class BillView(Model):
    """What a build is made of, and what of the pile is set aside for it."""

    made: MadeOf
    kept: list[Claim]
