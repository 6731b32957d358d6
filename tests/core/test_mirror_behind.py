"""A mirror that stands behind a box: its light against images on paper, its month, its spot, and what is refused."""

from __future__ import annotations

import math
from datetime import date

import numpy as np
import pytest

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.flap import flap_angles, flap_year
from drylamp.core.advice.patch import bright_patch, patch_day
from drylamp.core.advice.schools import schools_of
from drylamp.core.advice.weakest import weakest_link
from drylamp.core.builds.batch_box.optics import BatchOptics, lit_nodes
from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.mirror.spec import FlapMirror, StandingMirror
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.tables import mirror
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import FUNNEL, HEATER, OVEN, SHOWERS, SOUTHERN, STEW, TERRACE

JUNE, DECEMBER = date(2025, 6, 12), date(2025, 12, 12)
FENCE = StandingMirror(width_m=3.0, height_m=1.0, away_m=0.05, foot_m=0.0, material="glass-mirror")
FENCED = HEATER.with_(behind=FENCE)


def context(build: BatchBox, site=TERRACE, day: date = JUNE) -> AdviceContext:
    case = usual_case(site, None, build, SHOWERS, day)
    return AdviceContext(case, weather_for(case))


def toward(altitude_deg: float, azimuth_deg: float = 180.0) -> np.ndarray:
    a, b = math.radians(altitude_deg), math.radians(azimuth_deg)
    return np.array([math.sin(b) * math.cos(a), math.cos(b) * math.cos(a), math.sin(a)])


def met(build: BatchBox, sun: np.ndarray) -> float:
    """Beam that meets the opening, m²."""
    return float(BatchOptics.of(build, SHOWERS).along_path(sun[None])[1][0])


@pytest.mark.parametrize("altitude", [30.0, 45.0, 60.0])
def test_an_upright_mirror_adds_what_its_image_of_the_sun_sends(altitude):
    """Closed form: a sun at height h over a level opening of depth L before an upright mirror of height M lights min(L − away, M/tan h) of it once more."""
    sun, bare = toward(altitude), HEATER.with_(tilt_deg=0.0, behind=None)
    reached = min(bare.length_m, FENCE.height_m / math.tan(math.radians(altitude)) - FENCE.away_m)
    more = mirror("glass-mirror").reflectance * reached * bare.width_m * math.sin(math.radians(altitude))
    gained = met(bare.with_(behind=FENCE), sun) - met(bare, sun)
    assert gained == pytest.approx(more, rel=0.05)


def test_behind_it_the_sun_is_shaded():
    """From the north in the early morning the fence stands in the way; its back throws nothing."""
    sun = toward(12.0, 10.0)
    assert met(FENCED, sun) < 0.2 * met(HEATER, sun)


def test_leaning_it_back_throws_less_far_and_over_it_throws_down():
    sun = toward(65.0)
    back, upright, over = (
        met(HEATER.with_(behind=FENCE.model_copy(update={"lean_deg": lean})), sun) for lean in (45.0, 0.0, -25.0)
    )
    assert upright > back
    assert upright > over > met(HEATER, sun) * 0.8


def test_its_light_comes_in_the_run_and_energy_closes():
    plain, fenced = (context(build).run(build, SHOWERS) for build in (HEATER, FENCED))
    assert fenced.opening_w.sum() > 1.1 * plain.opening_w.sum()
    assert np.nanmax(fenced.temperature_c[SHOWERS.judged]) > np.nanmax(plain.temperature_c[SHOWERS.judged]) + 2.0
    assert abs(fenced.energy_closure) < 1e-9


@pytest.mark.parametrize(("site", "facing"), [(TERRACE, 180.0), (SOUTHERN, 0.0)])
def test_by_the_month_it_hangs_over_in_winter_and_leans_back_in_summer(site, facing):
    """In both hemispheres: the lower the sun, the more a mirror must throw down."""
    found = flap_year(context(FENCED.with_(facing_deg=facing), site))
    best = {m.month: m.best_deg for m in found.months}
    winter, summer = (12, 6) if site is TERRACE else (6, 12)
    assert best[winter] < 0.0 < best[summer]
    assert all(m.fixed_share <= 1.0 and m.now_share <= 1.001 for m in found.months)
    by_month = {m.month: m for m in found.months}
    assert by_month[winter].bare_share < by_month[summer].bare_share, "it is worth most where the sun is low"
    assert found.path == "behind.lean_deg"
    assert found.words.endswith(".")


def test_one_setting_never_beats_a_setting_a_month():
    for build in (FENCED, HEATER.with_(mirror=FlapMirror(angle_deg=100.0, length_m=0.6))):
        found = flap_year(context(build))
        assert min(m.fixed_share for m in found.months) < 1.0
        assert max(m.fixed_share for m in found.months) == 1.0
        assert all(m.light_m2 > 0 for m in found.months)


def test_a_mirror_lid_opens_further_in_summer():
    best = [m.best_deg for m in flap_year(context(HEATER.with_(mirror=FlapMirror(length_m=0.6)))).months]
    assert best[5] > best[2] > best[11]


def test_what_stays_all_day_is_set_for_the_whole_day_and_a_meal_for_its_hours():
    sun = toward(50.0)
    heater = flap_angles(context(FENCED), sun)
    case = usual_case(TERRACE, None, OVEN, STEW, JUNE)
    oven = flap_angles(AdviceContext(case, weather_for(case)), sun)
    assert heater.wanted_for == "the whole day"
    assert oven.wanted_for == "the 3 hours of the meal"
    assert min(heater.angles_deg) == -30.0
    assert max(heater.now) == max(heater.meal) == 1.0


def test_without_a_mirror_there_is_nothing_to_set():
    assert flap_angles(context(HEATER), toward(50.0)) is None
    assert flap_year(context(HEATER)) is None
    assert HEATER.with_(mirror=FlapMirror()).without_flap().mirror is None
    assert FENCED.without_flap().behind is None


def test_the_lid_is_set_first_and_what_stands_behind_where_there_is_no_lid():
    both = FENCED.with_(mirror=FlapMirror(angle_deg=95.0))
    assert (both.flap_angle_deg, both.flap_path) == (95.0, "mirror.angle_deg")
    assert both.with_flap_at(100.0).mirror.angle_deg == 100.0
    assert FENCED.with_flap_at(20.0).behind.lean_deg == 20.0
    assert both.without_mirrors().largest_mirror_m2 == 0.0
    assert FENCED.largest_mirror_m2 == pytest.approx(3.0)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"foot_m": -2.0}, "so -0.31 is the lowest"),
        ({"foot_m": -0.2, "lean_deg": -45.0}, "run into"),
    ],
)
def test_a_mirror_in_the_ground_or_through_the_box_is_refused(change, says):
    placed = HEATER.with_(behind=FENCE.model_copy(update=change))
    with pytest.raises(InputProblem, match=says):
        kind_of(placed).check_fit(placed, SHOWERS)


def test_its_drawing_has_the_mirror_a_ray_by_way_of_it_and_a_grip():
    sheet = kind_of(FENCED).section(FENCED, SHOWERS, toward(45.0))
    drawn = next(shape for shape in sheet.shapes if shape.part == "behind")
    (x0, y0), (x1, y1) = drawn.outline
    assert x1 == pytest.approx(x0, abs=1e-9), "upright"
    assert y1 - y0 == pytest.approx(1.0)
    assert any(ray.by_mirror for ray in sheet.rays)
    assert next(h for h in sheet.handles if h.field == "behind.lean_deg").value == 0.0
    leant = kind_of(FENCED).section(FENCED.with_flap_at(20.0), SHOWERS, toward(45.0))
    (x0, _), (x1, _) = next(shape for shape in leant.shapes if shape.part == "behind").outline
    assert x1 < x0 - 0.3, "its back lies to the left"
    assert "mirror behind" in [piece.name for piece in kind_of(FENCED).pattern(FENCED)]


# --- the spot on the water ---


def test_on_the_water_the_spot_lies_near_the_mirror_when_the_sun_is_high():
    high, low = (bright_patch(FENCED, SHOWERS, toward(a)) for a in (68.0, 40.0))
    rows = np.array(high.suns).mean(axis=1)
    assert rows[-1] > rows[0] + 0.2, "the upper edge, under the mirror, is lit twice"
    assert np.array(low.suns).mean(axis=1)[4] > 0.0
    assert high.floor == "water"
    assert "water" in high.words
    assert bright_patch(FENCED, None, toward(68.0)).floor == "bed"


def test_hour_by_hour_the_mirror_brings_most_about_noon():
    found = patch_day(TERRACE, FENCED, SHOWERS, JUNE)
    by_hour = {hour.at.hour: hour for hour in found.hours}
    assert by_hour[14].mirror_share > by_hour[10].mirror_share
    assert by_hour[14].mirror_share > 0.1
    assert len(found.hours[0].suns) == len(found.hours[0].suns[0]) == 8
    assert "comes by the mirror at 1" in found.words
    plain = patch_day(TERRACE, HEATER, SHOWERS, JUNE)
    assert all(hour.mirror_share == 0.0 for hour in plain.hours)
    assert plain.words == "No mirror throws light on the water on this day."


def test_a_mean_of_the_hours_map_is_that_of_the_large_one():
    hour = next(h for h in patch_day(TERRACE, FENCED, SHOWERS, JUNE).hours if h.at.hour == 13)
    sun = context(FENCED).weather
    k = int(np.argmin(np.abs(sun.sun.time_s - hour.at.timestamp())))
    large = bright_patch(FENCED, SHOWERS, sun.sun.direction[k])
    assert hour.mean_suns == pytest.approx(large.mean_suns, rel=0.03)


def test_what_has_no_tray_has_no_spot():
    with pytest.raises(InputProblem, match="this kind has none"):
        patch_day(TERRACE, FUNNEL, STEW, JUNE)


def test_lit_nodes_are_those_of_a_box():
    assert lit_nodes(FENCED, SHOWERS)[:2] == ["tray", "walls"]


# --- what is said of it ---


def test_a_mirror_behind_it_is_a_change_worth_its_price():
    titles = {line.title for line in weakest_link(context(HEATER)).lines}
    assert "a mirror behind it" in titles
    leant = {line.title for line in weakest_link(context(FENCED)).lines}
    assert any(title.startswith("mirror behind leaning") for title in leant)


def test_the_school_of_the_month_asks_of_what_stands_behind():
    school = next(iter(schools_of(context(FENCED), "mirror")))
    assert school.lines[0].is_mine
    assert len(school.lines) == 5
