"""The hinged mirror against geometry: a brute-force ray count, and cases with a known answer."""

import numpy as np
import pytest

from drylamp.core.optics.booster import HingedMirror, image, patch
from drylamp.core.sky.dome import hemisphere
from drylamp.core.sums.registry import find_sum


def counted_patch_m2(mirror: HingedMirror, width: float, length: float, sun: np.ndarray, rays: int = 40_000) -> float:
    """Area of the opening that the mirror lights, by throwing rays from points of the mirror."""
    random = np.random.default_rng(9)
    share, x = random.random(rays), (random.random(rays) - 0.5) * width
    points = np.stack(
        [x, length + share * mirror.length_m * mirror.along[1], share * mirror.length_m * mirror.along[2]], 1
    )
    facing = float(sun @ mirror.normal)
    if facing <= 0:
        return 0.0
    onward = -sun + 2 * facing * mirror.normal
    if onward[2] >= 0:
        return 0.0
    landing = points + (points[:, 2] / -onward[2])[:, None] * onward
    hit = (np.abs(landing[:, 0]) <= width / 2) & (landing[:, 1] >= 0) & (landing[:, 1] <= length)
    # A parcel of mirror of area dA sends dA·facing of beam, which crosses the opening at slant −onward_z.
    return float(hit.mean() * width * mirror.length_m * facing / -onward[2])


@pytest.mark.parametrize("angle", [80.0, 100.0, 120.0, 140.0])
@pytest.mark.parametrize("ratio", [0.6, 1.0, 1.8])
def test_patch_against_ray_count(angle: float, ratio: float):
    mirror = HingedMirror(0.5 * ratio, angle, 1.0)
    for sun in hemisphere(24)[4:]:
        seen = image(mirror, sun[None, :])
        facing = float(sun @ mirror.normal)
        closed = float(patch(mirror, 0.6, 0.5, seen).area_m2[0]) if facing > 0 and seen[0, 2] > 1e-6 else 0.0
        assert closed == pytest.approx(counted_patch_m2(mirror, 0.6, 0.5, sun), abs=0.004)


# Geometry: sun along the normal, mirror as long as the opening at 120°: the tip's ray just reaches the far edge
# and the mirror adds cos 60° = 1/2.
def test_classic_sixty_degree_flap():
    result = find_sum("mirror-tilt").run({"opening_tilt_deg": 0, "sun_altitude_deg": 90})["result"]
    assert result["mirror_angle_deg"] == pytest.approx(120.0, abs=1e-6)
    assert result["gain_ratio"] == pytest.approx(1.5, abs=1e-9)


@pytest.mark.parametrize("altitude", [25.0, 40.0, 60.0, 75.0])
@pytest.mark.parametrize("tilt", [0.0, 20.0, 45.0])
def test_tip_ray_reaches_the_far_edge(altitude: float, tilt: float):
    """Reflect the tip's ray by hand and see where it lands."""
    result = find_sum("mirror-tilt").run({"opening_tilt_deg": tilt, "sun_altitude_deg": altitude})["result"]
    above = np.radians(altitude + tilt - 90)
    sun = np.array([np.sin(above), np.cos(above)])
    angle = np.radians(result["mirror_angle_deg"])
    tip = np.array([1 - np.cos(angle), np.sin(angle)])
    normal = np.array([-np.sin(angle), -np.cos(angle)])
    onward = -sun + 2 * (sun @ normal) * normal
    landing = tip[0] + tip[1] / -onward[1] * onward[0]
    assert landing == pytest.approx(0.0, abs=1e-6)
    assert result["gain_ratio"] == pytest.approx(1 + -onward[1] / sun[1], rel=1e-6)


# Crossed strings for a long opening and mirror: F = (L + M − D)/(2 L), D between the free edges.
@pytest.mark.parametrize("angle", [60.0, 90.0, 120.0])
def test_diffuse_share_against_crossed_strings(angle: float):
    """Dome directions blocked by a very wide mirror, weighted by the cosine, make up the view factor to its front."""
    width, length, size = 60.0, 1.0, 1.0
    mirror = HingedMirror(size, angle, 0.0)
    directions = hemisphere(40_000)
    behind = directions @ mirror.normal < 0
    area = np.where(behind, patch(mirror, width, length, directions).area_m2, 0.0)
    seen = float((area * directions[:, 2]).sum() * 2 / len(directions) / (width * length))
    free_edges = np.hypot(length + size * mirror.along[1], size * mirror.along[2])
    assert seen == pytest.approx((length + size - free_edges) / (2 * length), abs=0.012)


def test_mirror_of_no_reflectance_is_a_board(oven):
    """A mirror that reflects nothing takes away exactly what an opaque board takes away."""
    from drylamp.core.builds.common.box.optics import BoxOptics
    from drylamp.core.tables import mirrors

    optics = BoxOptics.of(oven, None)
    bare = BoxOptics.of(oven.model_copy(update={"mirror": None}), None)
    directions = hemisphere(300)
    _, with_mirror = optics.absorbed_m2(directions)
    _, without = bare.absorbed_m2(directions)
    shadowed = with_mirror < without - 1e-9
    assert shadowed.any()
    assert (with_mirror > without + 1e-9).any()
    assert mirrors()["kitchen-foil"].reflectance < 1
