"""What is said of wax melters."""

from __future__ import annotations

from drylamp.core.advice.entries import BuildAdvice, Burns, Caution, LimitWords, Seen, flag
from drylamp.core.builds.common.box import advice as box
from drylamp.core.builds.common.cover import advice as cover
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag


def _bees(seen: Seen, build: Melter, load: Load | None) -> list[Flag]:
    return flag(
        "note", "box",
        "Bees and wasps smell the comb: keep the box tight and away from paths. Look inside before closing; animals shelter in "
        "warm boxes.",
    )  # fmt: skip


ADVICE: BuildAdvice[Melter] = BuildAdvice(
    burns=Burns("tray", "Gloves and long sleeves: molten wax sticks to skin. Let it set before you move the tray."),
    limits=LimitWords(
        "with nothing in the box", "Do not leave it empty in full sun", " or cover the glass when empty"
    ),
    get_ready="set the melter level across, clean tray in",
    changes=(
        cover.CHANGES, box.INSULATION, box.FINISHES, box.MIRROR_LID, box.FLAP, box.SEAL,
        turning.turns_every(30.0, 60.0), turning.TILTED,
    ),
    schools=(turning.TILTS, box.LININGS, cover.SHEETS, turning.TURNS),
    sayings=(
        box.BLACKER, cover.TWO_COVERS, heating.PREHEAT, box.SMALL_GAP, cover.GLASS, heating.OUTSIDE, heating.EFFICIENT,
    ),
    cautions=(mirror.EYES, mirror.WIND, Caution("bees", _bees)),
)  # fmt: skip
