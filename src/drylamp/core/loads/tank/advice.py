"""What is said of a tank on a loop: what is said of water to be drawn, and of loops."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core.advice.entries import Change, LoadAdvice, Rule
from drylamp.core.builds.build import Build
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.common.kept import advice as kept
from drylamp.core.loads.common.loop import advice as loop
from drylamp.core.loads.common.loop.questions import instead, timer_year
from drylamp.core.loads.tank.spec import LoopTank
from drylamp.core.tables import layer

WOOL, THICK_M = "glass-wool", 0.1


def _lagging(build: Build, load: LoopTank) -> Iterator[Change]:
    """Twice as much round it."""
    if sum(part.thickness_m for part in load.lagging if part.is_foam_like) < THICK_M:
        more = [*load.lagging, WallLayer(material=WOOL, thickness_m=0.05)]
        yield Change(
            "more wool round the tank",
            "load",
            build,
            load.model_copy(update={"lagging": more[-6:]}),
            layer(WOOL).price_m2 * load.faces_m2,
        )


ADVICE: LoadAdvice[LoopTank] = LoadAdvice(
    changes=(*kept.ADVICE.changes, *loop.CHANGES, Rule("load", _lagging)),
    schools=(*kept.ADVICE.schools, *loop.SCHOOLS),
    sayings=loop.SAYINGS,
    cautions=(*kept.ADVICE.cautions, *loop.CAUTIONS),
    grey_days=kept.ADVICE.grey_days,
    timer=timer_year,
    instead=lambda context, load, kilowatts, price: instead(context, load, load.fill_l, load.start_c, kilowatts, price),
)  # fmt: skip
