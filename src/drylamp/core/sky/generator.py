"""Made-up weather that behaves like weather: a seeded year, or an ensemble of years, from a site's monthly means.

For want of a real service and for chances: days follow each other with some memory, clouds come and go inside the
day, warm days are the clear ones, and the dew point lies near the night's lowest temperature. Two calls with one seed
give the same weather to the last digit.

References:
    Day-to-day memory of clearness as a first-order Gaussian process, 0.29: Graham & Hollands 1990. Hour-to-hour memory
    0.54: the same. Persistence of temperature and wind, spread of clearness about its monthly mean (a beta distribution
    in place of the published curves), and length of clouds: from memory, orders of size.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Literal

import numpy as np
from scipy.special import betaincinv, ndtr

from drylamp.core.air.moist import dew_point_c, saturation_pressure_pa
from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.sky.clear import clear_sky
from drylamp.core.sky.months import ClimateMonth, between_months
from drylamp.core.sky.rough_climate import ROUGH_CLEARNESS, ROUGH_K
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import sun_over
from drylamp.core.sky.weather import Records, daily_temperature, saturation_pressures

DAY_MEMORY, HOUR_MEMORY = 0.29, 0.54
AIR_MEMORY, AIR_SPREAD_K, AIR_WITH_SUN = 0.65, 2.8, 0.35
WIND_MEMORY = 0.80
CLEARNESS_SHARPNESS = 3.0
CLOUDED_SHARE = 0.25
"""Sun left under a passing cloud."""
CLOUD_MINUTES = 7.0
LARGEST_SHARE = 0.98
ROUGH_SEED, CLEARNESS_ENDS = 53, (0.15, 0.80)


@dataclass(frozen=True)
class _Day:
    """One day's draw: share of the clear sky's sun, and lowest, highest and dew-point temperature, °C."""

    share: float
    low_c: float
    high_c: float
    dew_c: float
    wind_m_s: float


def made_up_weather(
    site: Site, start: date, days: int, seed: int = 1, member: int = 0, step_s: Literal[60, 3600] = 3600
) -> Records:
    """Weather of days in a row, by the hour or by the minute.

    Parameters
    ----------
    start
        first day, by UTC
    seed
        names the weather; member: one of an ensemble of like years

    Raises
    ------
    InputProblem
        the site's months lack clearness.
    """
    climate = _climate(site)
    require(1 <= days <= 3660, "days", f"{days} was given; allowed are 1 to 3660")
    random = np.random.default_rng([seed, member, start.toordinal()])
    first = datetime(start.year, start.month, start.day, tzinfo=UTC).timestamp()
    edges = np.asarray(first + 3600.0 * np.arange(24 * days + 1), dtype=float)
    clear, above = _clear_hours(site, edges)
    drawn = _days(climate, start, days, clear, above, random)
    share = _hourly_share(drawn, clear, random)
    air, vapour = _air(site, drawn, edges)
    wind = _wind(drawn, random)
    if step_s == 3600:
        ghi = share * clear
        rh = np.clip(vapour / saturation_pressures(air), 0.05, 1.0)
        return _records(site, edges[:-1], 3600.0, ghi, air, rh, wind, seed, member)
    return _by_minute(site, edges, share, air, vapour, wind, random, seed, member)


def ensemble(site: Site, start: date, days: int, members: int, seed: int = 1) -> list[Records]:
    """Several runs of weather that could equally well be, rough months moved within their doubt."""
    return [made_up_weather(may_be(site, member), start, days, seed, member) for member in range(members)]


def may_be(site: Site, member: int) -> Site:
    """The site as it may be where its months are rough: all of them moved alike by half their doubt, times a normal draw.

    The first member keeps the guess itself, and a site with months of its own stays as it is.
    """
    if not site.climate_is_rough or member == 0:
        return site
    air, sun = np.random.default_rng([ROUGH_SEED, member]).normal(size=2)
    return site.model_copy(
        update={"climate": [_moved(month, air * ROUGH_K / 2.0, sun * ROUGH_CLEARNESS / 2.0) for month in site.months]}
    )


def _moved(month: ClimateMonth, air_k: float, clearness: float) -> ClimateMonth:
    clear = float(np.clip((month.clearness or 0.0) + clearness, *CLEARNESS_ENDS))
    return month.model_copy(update={"tmin_c": month.tmin_c + air_k, "tmax_c": month.tmax_c + air_k, "clearness": clear})


def _climate(site: Site) -> list[ClimateMonth]:
    require(
        all(month.clearness is not None for month in site.months), "site.climate",
        "weather cannot be made up without clearness in every month; give it, or leave all months out for rough ones",
    )  # fmt: skip
    return site.months


def _clear_hours(site: Site, edges: Array) -> tuple[Array, Array]:
    """Clear-sky and extraterrestrial sun on level ground, mean of each hour, W/m²."""
    fine = np.arange(edges[0] + 450.0, edges[-1], 900.0)
    sun = sun_over(site, fine)
    ghi, _, _ = clear_sky(site, sun)
    outside = sun.extraterrestrial_w_m2 * np.maximum(sun.direction[:, 2], 0.0)
    return ghi.reshape(-1, 4).mean(axis=1), outside.reshape(-1, 4).mean(axis=1)


def _days(
    climate: list[ClimateMonth], start: date, days: int, clear: Array, above: Array, random: np.random.Generator
) -> list[_Day]:
    """Draw every day: clearness with memory, temperatures with memory and with the sun."""
    sun_score = air_score = 0.0
    out = []
    for k in range(days):
        sun_score = DAY_MEMORY * sun_score + np.sqrt(1 - DAY_MEMORY**2) * random.normal()
        air_score = AIR_MEMORY * air_score + np.sqrt(1 - AIR_MEMORY**2) * random.normal()
        month = between_months(climate, start + timedelta(days=k))
        hours = slice(24 * k, 24 * k + 24)
        share, mean_share = _day_share(month.clearness or 0.0, clear[hours].sum(), above[hours].sum(), sun_score)
        swing = (month.tmax_c - month.tmin_c) * (0.45 + 0.55 * share / max(mean_share, 0.1))
        middle = (month.tmin_c + month.tmax_c) / 2 + AIR_SPREAD_K * (
            np.sqrt(1 - AIR_WITH_SUN**2) * air_score + AIR_WITH_SUN * sun_score
        )
        low, high = middle - swing / 2, middle + swing / 2
        usual_middle = (month.tmin_c + month.tmax_c) / 2
        usual_dew = dew_point_c(max(month.rh, 0.02) * float(saturation_pressure_pa(usual_middle)))
        dew = min(usual_dew + (low - month.tmin_c), low - 0.3)
        out.append(_Day(share, low, high, dew, month.wind_m_s))
    return out


def _day_share(clearness: float, clear: float, above: float, score: float) -> tuple[float, float]:
    """Share of the clear day's sun, drawn about the month's mean share; (drawn, mean)."""
    if clear <= 0 or above <= 0:
        return LARGEST_SHARE, LARGEST_SHARE
    mean = float(np.clip(clearness * above / clear, 0.05, 0.95))
    drawn = float(betaincinv(mean * CLEARNESS_SHARPNESS, (1 - mean) * CLEARNESS_SHARPNESS, ndtr(score)))
    return max(drawn, 0.04), mean


def _hourly_share(days: list[_Day], clear: Array, random: np.random.Generator) -> Array:
    """Share of the clear sky's sun hour by hour: unsteady on half-clear days, the day's energy kept."""
    out = np.empty(24 * len(days))
    score = 0.0
    for k, day in enumerate(days):
        spread = 0.9 * day.share * (1.0 - day.share)
        hours = np.empty(24)
        for h in range(24):
            score = HOUR_MEMORY * score + np.sqrt(1 - HOUR_MEMORY**2) * random.normal()
            hours[h] = np.clip(day.share + spread * score, 0.03, 1.0)
        weight = clear[24 * k : 24 * k + 24]
        for _ in range(4):  # scale to the day's energy without going above the clear sky
            energy = float((hours * weight).sum())
            if energy <= 0:
                break
            hours = np.clip(hours * day.share * float(weight.sum()) / energy, 0.03, 1.0)
        out[24 * k : 24 * k + 24] = hours
    return out


def _air(site: Site, days: list[_Day], edges: Array) -> tuple[Array, Array]:
    """Air temperature and vapour pressure at the middle of each hour: coolest at 5, warmest at 15 hours solar time."""
    solar = ((edges[:-1] + 1800.0) / 3600.0 + site.longitude_deg / 15.0) % 24.0
    number = np.arange(len(solar)) / 24.0
    at = np.arange(len(days)) + 0.5
    low, high, dew = (np.interp(number, at, [getattr(d, name) for d in days]) for name in ("low_c", "high_c", "dew_c"))
    air = daily_temperature(solar, low, high)
    return air, np.asarray(saturation_pressures(np.minimum(dew, air)))


def _wind(days: list[_Day], random: np.random.Generator) -> Array:
    """Wind by the hour: Rayleigh about the month's mean, with memory, stronger in the afternoon (from memory)."""
    out, score = np.empty(24 * len(days)), 0.0
    for h in range(len(out)):
        score = WIND_MEMORY * score + np.sqrt(1 - WIND_MEMORY**2) * random.normal()
        mean = days[h // 24].wind_m_s * (1.0 + 0.25 * np.sin(2 * np.pi * (h % 24 - 9) / 24.0))
        out[h] = mean * 2.0 / np.sqrt(np.pi) * np.sqrt(-np.log(max(1.0 - ndtr(score), 1e-9)))
    return out


def _by_minute(
    site: Site, edges: Array, share: Array, air: Array, vapour: Array, wind: Array, random: np.random.Generator,
    seed: int, member: int,
) -> Records:  # fmt: skip
    """Sun by the minute: clouds pass that leave a quarter of it, as long in each hour as its share asks for."""
    at = np.arange(edges[0], edges[-1], 60.0)
    sun = sun_over(site, at + 30.0)
    clear, _, _ = clear_sky(site, sun)
    ghi = clear * _passing_clouds(share, random)
    middle = (edges[:-1] + edges[1:]) / 2
    fine_air, fine_vapour, fine_wind = (np.interp(at + 30.0, middle, v) for v in (air, vapour, wind))
    gusts = _gusts(len(at), random)
    rh = np.clip(fine_vapour / saturation_pressures(fine_air), 0.05, 1.0)
    return _records(site, at, 60.0, ghi, fine_air, rh, fine_wind * gusts, seed, member)


def _gusts(minutes: int, random: np.random.Generator) -> Array:
    """Wind of each minute over the hour's mean: spread 15 % with a memory of one half (from memory, open country)."""
    out, score = np.empty(minutes), 0.0
    for k, kick in enumerate(random.normal(size=minutes)):
        score = 0.5 * score + 0.866 * kick
        out[k] = math.exp(0.15 * score - 0.011)
    return out


def _passing_clouds(share: Array, random: np.random.Generator) -> Array:
    """Share of the clear sky's sun by the minute; each hour keeps its mean as near as whole clouds allow."""
    minutes = np.empty(60 * len(share))
    shaded = False
    for h, wanted in enumerate(share):
        cloudy = float(np.clip((1.0 - wanted) / (1.0 - CLOUDED_SHARE), 0.0, 1.0))
        hour = np.empty(60)
        for m in range(60):
            # two states with the wanted share of time in cloud and clouds of the wanted length
            leave = 1.0 / CLOUD_MINUTES if cloudy < 0.97 else 0.0
            enter = leave * cloudy / max(1.0 - cloudy, 0.03)
            shaded = not (random.random() < leave) if shaded else random.random() < enter
            hour[m] = CLOUDED_SHARE if shaded and cloudy > 0.03 else 1.0
        mean = float(hour.mean())
        minutes[60 * h : 60 * h + 60] = np.clip(hour * wanted / mean, 0.0, 1.15)
    return minutes


def _records(
    site: Site, time_s: Array, step_s: float, ghi: Array, air: Array, rh: Array, wind: Array, seed: int, member: int
) -> Records:
    words = f"made-up weather, seed {seed}" + (f", member {member}" if member else "")
    pressure = np.full(len(time_s), site.pressure_pa)
    return Records(time_s, step_s, ghi, air, rh, wind, None, None, pressure, words)
