"""Long-wave through a cover of sheets that pass some of it, dry, and with dew on the innermost.

References:
    Absorption factors (Gebhart 1961; ``optics.exchange``) between wide parallel faces; water of a hundredth of a millimetre is opaque to long-wave (emittance 0.95, from memory).
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.cover.links import LEAST_EMITTANCE, sky_share
from drylamp.core.builds.common.cover.spec import Skin
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, SKY, Link
from drylamp.core.optics.exchange import Faces, absorbed_shares, exchange_areas

WATER_EMITTANCE = 0.95
LEAST_M2 = 1e-9


def glow_links(
    inside: Mapping[str, tuple[float, float]],
    skins: list[Skin],
    area_m2: float,
    tilt_deg: float,
    name: str,
    account: str,
) -> list[Link]:
    """Long-wave between faces under a cover, its sheets, sky and surroundings; as much as the dew on the innermost sheet leaves of it.

    Parameters
    ----------
    inside
        faces that look at the cover, by node: m² and emittance
    area_m2, tilt_deg
        of the cover
    name
        what its sheets are called, before their number
    account
        of what goes out
    """
    names = [*inside, *(f"{name}-{k + 1}" for k in range(len(skins))), SKY, AIR]
    dry, wet = (_exchange(inside, skins, area_m2, tilt_deg, is_wet) for is_wet in (False, True))
    links = list[Link]()
    for i, start in enumerate(names[:-2]):
        for j in range(i + 1, len(names)):
            if max(dry[i, j], wet[i, j]) > LEAST_M2:
                outward = names[j] in (SKY, AIR)
                links.append(
                    Link(
                        f"{start} shines on {names[j]}", Law.GLOW, start, names[j], (float(dry[i, j]), float(wet[i, j])), account if outward else "", beside=f"{name}-1",
                        calibrated_by="",
                    )
                )  # fmt: skip
    return links


def _exchange(inside: Mapping[str, tuple[float, float]], skins: list[Skin], area_m2: float, tilt_deg: float, is_wet: bool) -> Array:  # fmt: skip
    """Exchange areas between faces inside, sheets, sky and surroundings, m²."""
    count, sheets = len(inside), len(skins)
    size = count + 2 * sheets + 2
    area, glows, passes = np.zeros(size), np.ones(size), np.zeros(size)
    partner, node = np.arange(size), np.zeros(size, dtype=int)
    view = np.zeros((size, size))
    for k, (m2, emittance) in enumerate(inside.values()):
        area[k], glows[k], node[k] = m2, emittance, k
    for s, skin in enumerate(skins):
        below, above = count + 2 * s, count + 2 * s + 1
        area[below] = area[above] = area_m2
        through = skin.row.longwave_transmittance
        emittance = max(skin.row.emittance, LEAST_EMITTANCE)
        dewed = is_wet and s == 0
        glows[below] = WATER_EMITTANCE if dewed else emittance
        glows[above] = min(emittance + through, 1.0) if dewed else emittance
        passes[below] = passes[above] = 0.0 if dewed else min(through, 1.0 - emittance)
        partner[below], partner[above] = above, below
        node[below] = node[above] = count + s
    sky, around = size - 2, size - 1
    node[sky], node[around] = count + sheets, count + sheets + 1
    share = sky_share(tilt_deg)
    area[sky], area[around] = share * area_m2, (1.0 - share) * area_m2
    first, last = count, count + 2 * sheets - 1
    whole = sum(m2 for m2, _ in inside.values())
    for k, (m2, _) in enumerate(inside.values()):
        seen = min(area_m2 / whole, 1.0)
        view[k, first], view[k, k] = seen, 1.0 - seen
        view[first, k] = m2 * seen / area_m2
    view[first, first] = max(1.0 - view[first, :count].sum(), 0.0)
    for s in range(sheets - 1):
        above, next_ = count + 2 * s + 1, count + 2 * s + 2
        view[above, next_] = view[next_, above] = 1.0
    view[last, sky], view[last, around] = share, 1.0 - share
    view[sky, last] = view[around, last] = 1.0
    faces = Faces([""] * size, area, view, glows, passes, partner)
    return exchange_areas(faces, absorbed_shares(faces), node, count + sheets + 2)
