"""What ovens and melters are known to do (common practice, no source, unless said)."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.mirror.spec import FlapMirror, MoreFlaps
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.portions.spec import Portion, Portions
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.loads.wax.spec import WaxBatch
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span, Weather, clear_days
from drylamp.core.trials.figures import first_figure_m2k_w, grade_of
from drylamp.core.twin.placements import Placement
from drylamp.core.twin.run import Run
from tests.posing import prepared, simulated

PLACE = Site(name="middle", latitude_deg=40.0, longitude_deg=0.0, elevation_m=200.0, time_zone="UTC")
FOAM = [WallLayer(material="pir-foam", thickness_m=0.05)]
BOX = BoxOven(
    facing_deg=180.0, tilt_deg=20.0, width_m=0.5, length_m=0.5, height_m=0.2, wall=FOAM, mirror=None, seal_gap_mm=0.1,
    cover=GlazedCover(layers=1),
)  # fmt: skip
FLAP = FlapMirror(length_m=0.5, angle_deg=110.0)
WATER = PotLoad(food="water", food_kg=2.0, pot_diameter_m=0.22, pot_height_m=0.12, target_c=95.0)


def day(when: date = date(2025, 6, 21), site: Site = PLACE, **more) -> Weather:
    numbers = {"tmin_c": 18.0, "tmax_c": 30.0, "wind_m_s": 1.0} | more
    return weather_of(site, ClearDay(**numbers), Span(start=when))


def hottest(build, load=None, node: str = "tray", weather: Weather | None = None) -> float:
    return float(np.nanmax(simulated(PLACE, None, build, load, weather or day()).temperature_c[node]))


def changed(build, **change):
    return build.model_copy(update=change)


def test_four_flaps_beat_one_beats_none():
    four = changed(BOX, mirror=FLAP, flaps=MoreFlaps(lower=FLAP, left=FLAP, right=FLAP))
    none, one, all_four = hottest(BOX), hottest(changed(BOX, mirror=FLAP)), hottest(four)
    assert none + 5 < one < all_four - 5


def test_foam_beats_card():
    foam, card = (
        hottest(changed(BOX, wall=[WallLayer(material=material, thickness_m=thick)]))
        for material, thick in (("xps-foam", 0.025), ("corrugated-card", 0.006))
    )
    assert foam > card + 5


def test_cover_on_beats_cover_off():
    assert hottest(BOX) > hottest(changed(BOX, cover=None)) + 20


def test_black_tray_beats_foil():
    assert hottest(BOX) > hottest(changed(BOX, tray="aluminium-foil")) + 5
    with_pot = [hottest(changed(BOX, tray=tray), WATER, "contents") for tray in ("flat-black-paint", "aluminium-foil")]
    assert with_pot[0] > with_pot[1]


def test_two_panes_on_foam_earn_their_grade_and_foretell_another_day():
    """F1 0.11–0.14 m²K/W without mirrors (IS 13429, Mullick et al. 1987, grades from memory), and stagnation is air + F1·G."""
    good = changed(BOX, tilt_deg=0.0, cover=GlazedCover(layers=2))
    run, weather = simulated(PLACE, None, good, None, day()), day()
    k = int(np.argmax(run.temperature_c["tray"][:-1]))
    f1 = first_figure_m2k_w(float(run.temperature_c["tray"][k]), float(weather.air_c[k]), float(weather.ghi_w_m2[k]))
    assert 0.11 <= f1 <= 0.14
    assert grade_of(f1) in ("A", "B")
    other = day(date(2025, 9, 10), tmin_c=10.0, tmax_c=22.0)
    there = simulated(PLACE, None, good, None, other)
    j = int(np.argmax(there.temperature_c["tray"][:-1]))
    assert float(there.temperature_c["tray"][j]) == pytest.approx(float(other.air_c[j] + f1 * other.ghi_w_m2[j]), abs=6)


def noon_of_850() -> Weather:
    """Two hours round noon with 850 W/m² of beam."""
    start = day().start_s + 11 * 3600
    weather = clear_days(PLACE, ClearDay(tmin_c=18, tmax_c=30, wind_m_s=1.5), start, start + 7200)
    return replace(weather, dni_w_m2=np.full(weather.steps, 850.0))


def test_a_dish_of_1_4_m_boils_two_litres_in_10_to_30_minutes():
    dish, weather = Dish(facing_deg=180.0, diameter_m=1.4, focal_m=0.6), noon_of_850()
    sun = weather.sun
    stands = [
        Placement(float(sun.time_s[k]) - 30, None, float(sun.azimuth_deg[k]), 90 - float(sun.altitude_deg[k]))
        for k in range(0, weather.steps, 15)
    ]
    pot = in_vessel(WATER, "thin-enamel")
    run = prepared(PLACE, stands, dish, pot, weather).run(put_s=weather.start_s)
    minutes = int(np.argmax(run.temperature_c["contents"] > 98))
    assert 10 <= minutes <= 30


def test_bowl_over_food_in_a_foil_box_warms_from_80_to_120_f():
    """A foil-lined card box with a foil lid as mirror, black paper, a glass bowl over the food, half an hour of sun: a
    sunlit thermometer goes from 80 to 120 °F; the air under the bowl is cooler, the paper hotter."""
    box = BoxOven(
        facing_deg=180.0, tilt_deg=0.0, width_m=0.38, length_m=0.30, height_m=0.14, tray="black-card",
        wall=[WallLayer(material="corrugated-card", thickness_m=0.005)], cover=None,
        tray_sheet=WallLayer(material="corrugated-card", thickness_m=0.003), mirror=FlapMirror(length_m=0.3, angle_deg=110.0),
    )  # fmt: skip
    food = Portions(
        portions=[Portion(name="a", title="thermometer", what="wax-crayon", mass_kg=0.03, goes_in="11:00")], start_c=27.0,
        under=Envelope(diameter_m=0.24, height_m=0.11),
    )  # fmt: skip
    start = day(date(2025, 9, 12)).start_s + 10 * 3600
    weather = clear_days(PLACE, ClearDay(tmin_c=20, tmax_c=29, wind_m_s=2.0), start, start + 3600)
    ready = prepared(PLACE, [Placement(start, None)], box, food, weather)
    run = ready.run(put_s=start, first_c=dict.fromkeys(ready.fullest.network.names, 26.7))
    air, paper = (float(run.temperature_c[node][30]) for node in ("bowl-air", "tray"))
    assert air < 49 < paper
    assert (air + paper) / 2 == pytest.approx(49, abs=8)  # a thin sunlit thermometer reads between the two


def melt(sky: str) -> Run:
    box = Melter(
        facing_deg=180.0, tilt_deg=25.0, wall=[WallLayer(material="pine-board", thickness_m=0.02)], cover=GlazedCover()
    )
    return simulated(PLACE, None, box, WaxBatch(form="old-comb", batch_kg=1.5), day(sky=sky))


def test_comb_melts_on_a_clear_day_and_not_on_an_overcast_one():
    """Box air of 60–70 °C on a clear day; beeswax melts at 62–64 °C."""
    clear, grey = melt("clear"), melt("grey")
    assert 58 < float(clear.temperature_c["inside-air"].max()) < 75
    assert float(clear.mass_kg["catch"][-1]) > 0.35
    assert float(np.nanmax(grey.temperature_c["wax"])) < 62
    assert float(grey.mass_kg["catch"][-1]) == 0.0


@pytest.mark.parametrize(
    ("build", "load", "node"),
    [
        (changed(BOX, shape="wedge", tilt_deg=25.0, mirror=FLAP), WATER, "contents"),
        (Funnel(facing_deg=180.0), WATER, "contents"),
        (Dish(facing_deg=180.0), in_vessel(WATER, "pressure-pot"), "contents"),
        (Melter(facing_deg=180.0, wall=FOAM), WaxBatch(), "catch"),
    ],
    ids=["wedge", "funnel", "dish", "melter"],
)
def test_both_hemispheres_mirror_each_other(build, load, node: str):
    """The same day with north and south exchanged, the build turned round."""
    weather = day()
    across = weather.sun.direction * np.array([1.0, -1.0, 1.0])
    mirrored = replace(
        weather, sun=replace(weather.sun, direction=across, azimuth_deg=(180.0 - weather.sun.azimuth_deg) % 360)
    )
    south = PLACE.model_copy(update={"latitude_deg": -40.0})
    here = simulated(PLACE, None, build, load, weather)
    there = simulated(south, None, changed(build, facing_deg=0.0), load, mirrored)
    assert np.nanmax(np.abs(there.temperature_c[node] - here.temperature_c[node])) < 1.5
    assert max(here.energy_closure, there.energy_closure) < 1e-9


def test_a_heavy_pot_is_slower_but_steadier():
    """Cast iron against thin enamel in one box: later to 80 °C, and less of a fall when the sun is kept off for half an hour."""
    weather = day()
    oven = changed(BOX, mirror=FLAP, cover=GlazedCover(layers=2))
    late, fall = [], []
    cloud = weather.start_s + 14 * 3600
    for name in ("thin-enamel", "cast-iron"):
        pot = in_vessel(changed(WATER, food_kg=1.0, goes_in="09:30"), name)
        ready = prepared(PLACE, [Placement(weather.start_s, None)], oven, pot, weather)
        warm = ready.run().temperature_c["contents"]
        late.append(int(np.argmax(warm > 80)))
        dark = ready.in_the_dark(cloud).run().temperature_c["contents"]
        at = 14 * 60
        fall.append(float(dark[at] - dark[at + 30]) / float(dark[at] - 30))
    assert late[1] > late[0] + 5
    assert fall[1] < fall[0] - 0.005
