"""A network as data: what it refuses, what it keeps when amounts in it change, and how long dark steps are laid out again."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from drylamp.core.air.draught import FlowPath, Loss
from drylamp.core.builds.common.cover.links import through_sheets
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.checks import InputProblem
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure, water_closure
from drylamp.core.heat.drive import Drive, calm_blocks, merged
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, HUMIDITY, SKY, Link, Melting, Node, Wet

WAX = Melting(mass_kg=0.5, cp_j_kgk=2000.0, latent_j_kg=2e5, low_c=60.0, high_c=64.0)
AIRWAY = FlowPath("way", (Loss("hole", 0.01, 2.8),), (("room", 0.5),), AIR, vents=(Loss("flap", 0.01, 2.8),))


def borne(*ways: tuple[str, str, float]) -> tuple[Link, ...]:
    return tuple(Link(f"{a} to {b}", Law.BORNE, a, b, (share,), path="way") for a, b, share in ways)


def room(*links: Link, path: FlowPath = AIRWAY) -> Network:
    nodes = (Node("room", 2e4, ""), Node("corner", 1e4, ""))
    return Network(nodes, (Link("between", Law.CONDUCTANCE, "room", "corner", (2.0,)), *links), (path,))


def damp(water_kg: float = 0.05) -> Network:
    pane = Wet("room-vapour", "room", water_kg, 3.0, "vapour", area_m2=0.5, holds_kg=0.1)
    nodes = (Node("room", 5e3, ""), Node("room-vapour", 0.5, "", role="vapour"), Node("pane", 2e3, "", wet=pane))
    links = (
        Link("pane in the wind", Law.WIND, "pane", AIR, (0.5,)),
        Link("on the pane", Law.WET, "pane", "room-vapour", ()),
        Link("room to pane", Law.CONDUCTANCE, "room", "pane", (1.5,)),
        Link("gaps", Law.DAMP_LEAK, "room-vapour", HUMIDITY, (0.001, 0.3), beside="room"),
    )
    return Network(nodes, links)


def exposed(network: Network, steps: int, sun_w: float = 0.0, opening: np.ndarray | None = None) -> Drive:
    full, heat = np.ones(steps), np.zeros((steps, len(network.nodes)))
    heat[: steps // 2, 0] = sun_w
    return Drive(
        60.0, 20.0 * full, 5.0 * full, 1.0 * full, 1200.0 * full, 100.0, 101325.0, heat, np.ones(steps, dtype=np.int64), opening=opening
    )  # fmt: skip


# --- what it refuses ---


@pytest.mark.parametrize(
    ("ways", "stuck"),
    [
        ([(AIR, "room", 1.0), ("room", AIR, 0.7)], "room"),
        ([(AIR, "room", 1.0), ("room", "corner", 0.4), ("room", AIR, 0.6)], "corner"),
        ([(AIR, "room", 0.5), ("room", "corner", 0.5)], "corner"),
    ],
)
def test_shares_that_do_not_add_up_on_the_way_are_refused_by_node(ways: list, stuck: str):
    with pytest.raises(InputProblem, match=f"what flows into .*{stuck}.* does not flow out again"):
        room(*borne(*ways))


def test_what_goes_all_at_once_and_what_goes_in_shares_are_one_sum():
    """Half goes round by the corner and comes back, the other half straight; CARRIED counts as a share of one."""
    split = borne((AIR, "room", 0.5), (AIR, "corner", 0.5), ("corner", "room", 0.5))
    out = Link("out", Law.CARRIED, "room", AIR, (), path="way")
    assert len(room(*split, out).links) == 5
    with pytest.raises(InputProblem, match="room"):
        room(*split[:2], out)


def test_a_pane_that_names_no_air_and_food_without_pieces_are_refused():
    for change, words in (({"vapour": "nowhere"}, "is no node"), ({"dry_kg": 0.2}, "dry matter, and its pieces or boards"), ({"runs_to": "room"}, "nothing else that holds water")):  # fmt: skip
        network = damp()
        nodes = tuple(replace(n, wet=replace(n.wet, **change)) if n.wet else n for n in network.nodes)
        with pytest.raises(InputProblem, match=words):
            replace(network, nodes=nodes)


# --- other amounts in it ---


def test_other_water_leaves_what_was_worked_out_of_its_joints():
    network = damp()
    assert network.with_water({"elsewhere": 1.0}) is network
    wetter = network.with_water({"pane": 0.08, "elsewhere": 1.0})
    assert wetter.compiled_wet()[1].tolist() == [0.08]
    assert network.compiled_wet()[1].tolist() == [0.05]
    assert wetter.compiled_links is network.compiled_links
    assert wetter.fill is network.fill
    assert wetter.names == network.names


def test_other_masses_likewise():
    pan = Network((Node("pan", 100.0, "", melts=WAX),), (Link("loss", Law.CONDUCTANCE, "pan", AIR, (1.0,)),))
    assert pan.with_masses({}) is pan
    assert pan.with_masses({"pan": 0.1}).compiled_melting().mass.tolist() == [0.1]
    assert pan.with_water({"pan": 0.1}) is pan, "wax is no water"


# --- time cut, and laid out again ---


def test_dark_steps_are_taken_as_one_and_laid_out_as_they_were_asked_for():
    """Half an hour after the last sun ten dark minutes become one step; what comes back has every minute, and closes."""
    network = damp()
    drive = exposed(network, 240, sun_w=150.0)
    lit = drive.source_w.max(axis=1) > 0.0
    short = merged(drive, lit)
    assert len(short.air_c) == len(calm_blocks(lit, 60.0)) < 240
    assert short.edges[-1] == 240
    history = advance(network, np.array([20.0, 7.0, 20.0]), drive)
    assert history.temperature_c.shape == (241, 3)
    assert history.link_w.shape == (240, 4)
    lost, taken = closure(network, history, drive)
    assert abs(lost) < 1e-9 * taken
    water_lost, moved = water_closure(network, history)
    assert abs(water_lost) < 1e-9 * moved
    nap = history.temperature_c[-11:, 0]
    assert np.abs(np.diff(nap, 2)).max() < 1e-9, "a straight line within a nap"


def test_naps_say_nearly_what_single_steps_say():
    network = damp()
    drive = exposed(network, 240, sun_w=150.0)
    first = np.array([20.0, 7.0, 20.0])
    slept, awake = advance(network, first, drive), advance(network, first, replace(drive, first=np.arange(241)))
    assert slept.temperature_c[-1] == pytest.approx(awake.temperature_c[-1], abs=0.05)
    assert slept.held is not None
    assert awake.held is not None
    assert slept.held.water_kg[-1, 0] == pytest.approx(awake.held.water_kg[-1, 0], abs=2e-4)


def test_a_vent_set_by_the_hour_cools_a_dry_room_at_once_and_energy_closes():
    """Wherever a path has a vent, not only where something is damp."""
    network = room(*borne((AIR, "room", 1.0), ("room", AIR, 1.0)))
    opening = np.full((240, 1), 0.05)
    opening[120:] = 1.0
    drive = exposed(network, 240, opening=opening)
    drive.source_w[:, 0] = 200.0
    history = advance(network, np.array([20.0, 20.0]), drive)
    lost, taken = closure(network, history, drive)
    assert abs(lost) < 1e-9 * taken
    warm = history.temperature_c[:, 0]
    assert warm[120] > 45.0
    assert (np.diff(warm[120:140]) < 0.0).all()
    assert warm[140] < warm[120] - 5.0
    assert (np.diff(warm[:120]) > 0.0).all()


# --- what shines through a cover ---


def test_film_lets_heat_rays_through_to_the_sky_and_glass_does_not():
    film, glass = (GlazedCover(material=name).skins for name in ("pe-film", "window-glass"))
    (link,) = through_sheets("plate", 0.9, film, "cover")
    assert (link.law, link.start, link.end, link.account) == (Law.RADIATION, "plate", SKY, "cover")
    assert link.params[0] == pytest.approx(0.9 * film[0].row.longwave_transmittance)
    assert through_sheets("plate", 0.9, glass, "cover") == []
    both = [*film, *glass]
    assert through_sheets("plate", 0.9, both, "cover") == [], "one sheet that holds them back is enough"
