"""Hourly weather as JSON, the way a weather service speaks: one object with ``hours``, each starting at its ``time``."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

import numpy as np
from pydantic import Field, ValidationError, field_validator

from drylamp.core.checks import Fraction, InputProblem, Model, Number, explain, require
from drylamp.core.sky.weather import Records

SUN = Annotated[Number, Field(ge=0, le=1800)]


class Hour(Model):
    """One hour's means."""

    time: datetime
    ghi_w_m2: SUN
    dni_w_m2: SUN | None = None
    dhi_w_m2: SUN | None = None
    air_c: Annotated[Number, Field(ge=-80, le=60)]
    rh: Fraction
    wind_m_s: Annotated[Number, Field(ge=0, le=80)]
    pressure_pa: Annotated[Number, Field(ge=40000, le=115000)] | None = None

    @field_validator("time")
    @classmethod
    def _has_offset(cls, moment: datetime) -> datetime:
        if moment.tzinfo is None:
            raise ValueError(f"'{moment.isoformat()}' has no offset; write it as 2025-06-12T10:00:00Z")
        return moment


class HourlyWeather(Model):
    """What a weather service answers."""

    origin: str = "weather service"
    hours: list[Hour] = Field(min_length=2, max_length=100000)


def read_weather_json(text: str, name: str = "weather service") -> Records:
    """Read hourly weather.

    Raises:
        InputProblem: it is not JSON of this shape, a value is out of range, or the hours do not rise.
    """
    try:
        found = HourlyWeather.model_validate_json(text)
    except ValidationError as error:
        first = explain(error)[0]
        raise InputProblem("weather", f"{name}: {first.field or 'the text'} {first.message}") from None
    hours = found.hours
    time_s = np.array([hour.time.timestamp() for hour in hours])
    late = np.flatnonzero(np.diff(time_s) <= 0)
    where = hours[int(late[0]) + 1].time.isoformat() if len(late) else ""
    require(len(late) == 0, "weather", f"{name}: {where} is not after the hour before; sort them")

    def column(field: str) -> np.ndarray:
        return np.array([getattr(hour, field) for hour in hours], dtype=float)

    def known(*fields: str) -> bool:
        return all(getattr(hour, field) is not None for hour in hours for field in fields)

    split = known("dni_w_m2", "dhi_w_m2")
    return Records(
        time_s=time_s,
        step_s=float(np.median(np.diff(time_s))),
        ghi_w_m2=column("ghi_w_m2"),
        air_c=column("air_c"),
        rh=np.maximum(column("rh"), 0.01),
        wind_m_s=column("wind_m_s"),
        dni_w_m2=column("dni_w_m2") if split else None,
        dhi_w_m2=column("dhi_w_m2") if split else None,
        pressure_pa=column("pressure_pa") if known("pressure_pa") else None,
        origin=found.origin,
    )
