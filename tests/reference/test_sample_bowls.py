"""A bowl or bag over each sample: light by geometry that can be had by hand, heat by a balance in the test, and what is refused."""

from __future__ import annotations

import math
from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core import forms
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.samples.section import section_of
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.optics.bowl import bowl_light
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.tables import contacts
from drylamp.demo.scenario import LIDS, TERRACE
from tests.posing import simulated

GLASS = Pane(1.473, 8.0, 0.005)
BLACK = Pane(1.0001, 1e6, 0.005)
"""Takes up all that it meets."""


def sun(height_deg: float, round_deg: float = 0.0) -> np.ndarray:
    up, turn = np.radians(height_deg), np.radians(round_deg)
    return np.array([[np.cos(up) * np.sin(turn), np.cos(up) * np.cos(turn), np.sin(up)]])


def bowled(**over: object) -> Samples:
    return forms.added(LIDS.with_(tilt_deg=0.0, **over), ["over"])


@pytest.mark.parametrize("height_deg", [15.0, 50.0, 90.0])
def test_under_the_middle_of_a_round_bowl_light_comes_in_square(height_deg: float):
    light = bowl_light(GLASS, 2.0, 1.0, 0.001, sun(height_deg))
    assert light.through[0] == pytest.approx(float(stack([GLASS], 1.0).transmittance), abs=1e-4)


@pytest.mark.parametrize("height_deg", [25.0, 60.0])
def test_a_very_flat_one_is_a_pane(height_deg: float):
    light = bowl_light(GLASS, 2.0, 0.001, 0.2, sun(height_deg))
    assert light.through[0] == pytest.approx(
        float(stack([GLASS], math.sin(math.radians(height_deg))).transmittance), rel=0.01
    )


@pytest.mark.parametrize("height_deg", [5.0, 30.0, 90.0])
def test_the_hull_meets_what_half_an_ellipsoid_shows(height_deg: float):
    """Outline of half an ellipsoid on its foot: (π a/2)(a sin e + √(a² sin² e + h² cos² e)), by projecting it."""
    a, high, e = 0.12, 0.2, math.radians(height_deg)
    outline = math.pi * a / 2 * (a * math.sin(e) + math.hypot(a * math.sin(e), high * math.cos(e)))
    met = bowl_light(BLACK, 2 * a, high, 0.05, sun(height_deg, 40.0)).soaked_m2[0]
    assert met == pytest.approx(outline, rel=0.01)


def test_nothing_comes_from_under_the_board():
    light = bowl_light(GLASS, 0.2, 0.1, 0.05, np.array([[0.0, 1.0, 0.0], [0.0, 0.6, -0.8]]))
    assert not light.through.any()
    assert not light.soaked_m2.any()


@pytest.mark.parametrize("material", ["borosilicate-bowl", "oven-bag"])
def test_a_sample_under_a_bowl_meets_its_heat_balance(material: str):
    """Sun in = convection to the bowl's air (McAdams 1954: 0.54 Ra¼) + long-wave to a hull round it (Incropera & DeWitt 13.24) and through it
    + contact with the board."""
    build = bowled(edges="wrapped")
    build = build.with_(over=forms.changed(build.over, ["material"], material))
    run = simulated(
        TERRACE, "flat roof", build, None,
        weather_of(TERRACE, ClearDay(tmin_c=20, tmax_c=20, wind_m_s=3.0), Span(start=date(2025, 6, 21))),
    )  # fmt: skip
    at, sample, over = 14 * 60, next(s for s in build.samples if s.name == "stove"), build.over
    face, hull, air, board = (
        float(run.temperature_c[node][at])
        for node in (sample.node, f"{sample.node}-bowl", f"{sample.node}-under", "board")
    )
    sky, out = float(run.weather.sky_c[at]), float(run.weather.air_c[at])
    area, gloss = build.sample_m2, sample.row.emittance
    shine = float(run.opening_w[at]) / build.opening_m2
    back = float(stack([over.pane], 0.5).reflectance)
    clear = bowl_light(over.pane, over.diameter_m, over.height_m, build.corner_m / 2, sun(68.0)).through[0]
    gained = shine * area * clear * 0.95 / (1 - 0.05 * back)
    film = (face + air) / 2 + 273.15
    rayleigh = 9.81 / film * (face - air) * build.width_m**3 / (1.8e-5**2) * 0.7
    convection = 0.54 * rayleigh**0.25 * 0.0272 / build.width_m
    fourth = {name: (t + 273.15) ** 4 for name, t in {"face": face, "hull": hull, "sky": sky}.items()}
    to_hull = area / (1 / gloss + area / over.hull_m2 * (1 / over.emittance - 1))
    through = area * gloss * over.row.longwave_transmittance / 2
    lost = (
        area * convection * (face - air)
        + 5.670374419e-8 * (to_hull * (fourth["face"] - fourth["hull"]) + through * (fourth["face"] - fourth["sky"]))
        + contacts()["uneven"].w_m2k * area * (face - board)
    )
    assert lost == pytest.approx(gained, rel=0.06)
    assert out < hull < air < face


def test_a_bowl_warms_in_wind_and_the_books_close(june):
    bare, over = LIDS.with_(tilt_deg=0.0), bowled()
    runs = [simulated(TERRACE, "flat roof", build, None, june) for build in (bare, over)]
    for run, build in zip(runs, (bare, over), strict=True):
        assert run.energy_closure < 1e-9
        total = sum(run.account_w[name] for name in kind_of(build).accounts)
        assert total == pytest.approx(run.opening_w, abs=1e-6)
    peaks = [float(run.temperature_c["sample-stove"].max()) for run in runs]
    assert peaks[1] > peaks[0] + 1.0


def test_it_makes_room_for_itself_and_is_drawn(june):
    build = bowled()
    assert build.over.diameter_m >= build.corner_m
    assert build.spacing_m + build.narrow_m >= build.over.diameter_m
    section = section_of(build, None, sun(60.0)[0])
    assert sum(shape.label == "bowl" for shape in section.shapes) == build.rows + len(build.samples)
    plates = forms.added(LIDS.with_(shape="plate", length_m=0.1, cover=None), ["over"])
    assert plates.over.diameter_m > math.hypot(plates.width_m, plates.length_m)


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"over": Envelope(diameter_m=0.05, height_m=0.1)}, "from corner to corner"),
        ({"over": Envelope(diameter_m=0.5, height_m=0.1)}, "do not fit side by side"),
        ({"contact": "stood-off", "over": Envelope(diameter_m=0.13, height_m=0.03)}, "take a higher one"),
        ({"over": Envelope(diameter_m=0.13, height_m=0.1), "cover": {}}, "take one away"),
    ],
)
def test_what_does_not_go_over_a_sample_is_refused(given: dict, words: str):
    with pytest.raises(ValidationError, match=words):
        Samples.model_validate({**LIDS.model_dump(), "cover": None, **{k: v if isinstance(v, (str, dict)) else v.model_dump() for k, v in given.items()}})  # fmt: skip
