"""What is said of wax melters."""

from __future__ import annotations

from drylamp.core.advice.entries import BuildAdvice, Burns, Caution, LimitWords, Seen, flag
from drylamp.core.builds.common.box import advice as box
from drylamp.core.builds.common.cover import advice as cover
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.loads.common.places import USUAL_SLOPE_DEG, runs
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import degrees


def _bees(seen: Seen, build: Melter, load: Load | None) -> list[Flag]:
    return flag(
        "note", "box",
        "Bees and wasps smell the comb: keep the box tight and away from paths. Look inside before closing; animals shelter in "
        "warm boxes.",
    )  # fmt: skip


LEAST_RUN = 0.3


def _level(seen: Seen, build: Melter, load: Load | None) -> list[Flag]:
    """Whether wax runs to the catch tray at all."""
    share = runs(build.floor_tilt_deg)
    if share >= LEAST_RUN:
        return []
    said = (
        "does not run at all and stays where it lies"
        if share == 0
        else f"runs at {100 * share:.0f} % of its usual pace"
    )
    return flag(
        "warn",
        "aim",
        f"Slope: on a floor that leans {degrees(build.floor_tilt_deg)} what melts {said}. Prop its back up to {degrees(USUAL_SLOPE_DEG)} or more.",
    )


ADVICE: BuildAdvice[Melter] = BuildAdvice(
    burns=Burns("tray", "Gloves and long sleeves: molten wax sticks to skin. Let it set before you move the tray."),
    limits=LimitWords(
        "with nothing in the box", "Do not leave it empty in full sun", " or cover the glass when empty"
    ),
    get_ready="set the melter level across, clean tray in",
    tuned=(box.FLAP_SET,),
    changes=(
        cover.CHANGES, box.INSULATION, box.FINISHES, box.MIRROR_LID, box.FLAP, box.SEAL,
        turning.turns_every(30.0, 60.0), turning.TILTED,
    ),
    schools=(turning.TILTS, box.LININGS, cover.SHEETS, turning.TURNS),
    sayings=(
        box.BLACKER, cover.TWO_COVERS, heating.PREHEAT, box.SMALL_GAP, cover.GLASS, heating.OUTSIDE, heating.EFFICIENT,
    ),
    cautions=(mirror.EYES, mirror.WIND, Caution("bees", _bees), Caution("level-floor", _level)),
)  # fmt: skip
