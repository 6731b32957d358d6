"""What goes along with the air of a path, and faces that take the dew of that air."""

from __future__ import annotations

from itertools import pairwise

from drylamp.core.heat.damp import VAPOUR_PER_HEAT
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, HUMIDITY, Link, Wet

VAPOUR = "vapour"
"""Line of the ledger for the heat that leaves as vapour."""
WALL_FILM_W_M2K, DEW_KG_M2 = 3.0, 0.06
"""Of slow air on walls and glass inside; and the most dew that a face holds before it runs (0.05 to 0.1 kg/m² on glass); from memory."""


def carried(chain: list[str], path: str, share: float, account: str, kind: str = "air") -> list[Link]:
    """Heat that goes along a chain of nodes with the air of a path, either way; ``account`` where it crosses to the outside."""
    return _borne(chain, path, share, account, kind, AIR)


def vapour_carried(chain: list[str], path: str, share: float) -> list[Link]:
    """Vapour likewise, along a chain of vapour nodes."""
    return _borne(chain, path, share * VAPOUR_PER_HEAT, VAPOUR, "vapour", HUMIDITY)


def _borne(chain: list[str], path: str, share: float, account: str, kind: str, outside: str) -> list[Link]:
    return [
        Link(
            f"{kind} from {here} to {there}",
            Law.BORNE,
            here,
            there,
            (share,),
            account if outside in (here, there) else "",
            path,
        )
        for here, there in pairwise(chain)
    ]


def dewed(vapour: str, air: str, m2: float, runs_to: str = "") -> Wet:
    """A wall or pane beside such air."""
    return Wet(vapour, air, 0.0, WALL_FILM_W_M2K, VAPOUR, area_m2=m2, holds_kg=DEW_KG_M2 * m2, runs_to=runs_to)
