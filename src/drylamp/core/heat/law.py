"""The laws by which a link may carry heat, by name; ``laws.py`` works them out."""

from __future__ import annotations

from enum import IntEnum


class Law(IntEnum):
    """What a link does, and what its parameters mean."""

    CONDUCTANCE = 0  # W/K
    RADIATION = 1  # exchange area m²
    CAVITY = 2  # area m², gap m, tilt deg: still air between two parallel sheets
    WIND = 3  # area m², shelter 0–1: a surface in the open, the share of the wind that is kept off it
    SURFACE = 4  # area m², length m, facing (1 up, 0 upright, −1 down): natural convection in a closed space
    LEAK = 5  # area m², height m: air through cracks, in low and out high
    BOIL = 6  # what boils (``Node.boils``) gives off its steam by this link; carries nothing by itself
    EVAPORATE = 7  # area m², free share 0–1: water vapour from a wet surface to the open air
    CYLINDER = 8  # area m², diameter m: natural convection round a lying cylinder
    CARRIED = 9  # number of a flow path: heat carried by what flows from start to end
    WET_GAP = 10  # area m², share of the vapour that reaches the end 0–1: water (start) under a sheet
    MIXING = 11  # area m², height m, W/K while it turns over: two layers of standing water, the upper the start
    IMMERSED = 12  # area m², diameter m: a lying pipe in water
    WETTED = 13  # area m², length m, facing (1 up, 0 upright, −1 down): a surface and the water on it
    VAPOUR_LEAK = 14  # area m², height m, kg/s (0: as the draught will): damp air through cracks, saturated at the colder of start and ``beside``
    OPEN_WATER = (
        15  # area m², share of it that is open 0–1, shelter 0–1: water vapour from water under the sky, with the wind
    )
    DRIVEN = (
        16  # number of a flow path, W for each W/K that it carries: what its pump gives off as heat, from start to end
    )
    AIRED_WATER = 17  # number of a flow path, m² for each W/K that it carries, open share 0–1, shelter 0–1: the same where a cover is off
    ANNULUS = 18  # 2 π L / ln(D₂/D₁) in m, effective length cubed in m³: air between two lying or leaning cylinders
    ONE_WAY = 19  # W/K: a heat pipe, or warm water that rises: from start to end, hardly back
    WET = 20  # water that leaves a wet body (start) for the vapour of its air (end), with its latent heat
    FILMED = 21  # the air (start) on a wet body (end), as fast as it blows and as large as that still is
    BORNE = 22  # number of a flow path, share: heat or vapour that air carries from start to end, or back when it turns
    DAMP_LEAK = 23  # area m², height m: vapour through cracks; ``beside`` is the air that is in with it
    DUCT = 24  # number of a flow path, area/D_h m, D_h/free area 1/m, D_h/length, area m², facing: a surface (start) and the air that is led along it in a flat channel (end), no less than still air would take
    TUBE = 25  # the same in a round duct
    WIRES = 26  # number of a flow path, area/d m, d/free area 1/m, 0: wires across the air that is drawn through them
    AIRED = 27  # W/K in calm air, W/K for each m/s of wind: air that is changed as it was measured; of vapour likewise
    GLOW = 28  # exchange area m² with a pane dry and with it wet all over: long-wave round ``beside``, a pane that dew makes opaque
    HEATED = 29  # W, °C: a heater that gives so much into the end until that is so warm
    STIRRED = 30  # area m², the wall's own W/m²K, film W/m²K (0: it stirs itself), Cooper's factor: a pot's wall and its contents, which boil at ``beside``
    CONDENSED = 31  # 0, cover m², leak m², height m, m³/s: steam of ``also`` that comes down on the cover (end) of the closed space whose air is ``beside``
    VAPOUR_KEPT = 32  # open m², cover m², leak m², height m, m³/s: vapour of something wet (start) that comes down on the cover (end) of that space
    VAPOUR_LOST = 33  # the same: vapour that leaves the space with its air; ``also`` is its cover
    DOME = 34  # area m², diameter m, shelter 0–1: something small and round in the open, a bowl or a pot
