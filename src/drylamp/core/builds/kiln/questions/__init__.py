"""What is asked of a lumber kiln."""

from __future__ import annotations

from drylamp.core.builds.kiln.questions.backup import backup
from drylamp.core.builds.kiln.questions.building import building

__all__ = ["backup", "building"]
