"""What is asked of a charge of boards: when it is dry, what to do with vents and fans week by week and today, how much to lay in, what a change brings, what to saw."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.text import Sentence

Level = Literal["none", "watch", "high"]


class GroupChance(Model):
    """A group over usual weather and over made-up seasons.

    Attributes:
        likely_days, early_days, late_days: until its mean is at the target; none where it is not by the end
        chance: share of the seasons in which it is
        mean_mc, shell_mc, core_mc, outside_mc: by the answer's times
        meter_mc: what the meter shows when it is dry
        loss_share: largest loss of a day by the safe rate; none where nothing is published
        checks: how near to checking
        outside_days: until the stack outside is there; outside_at_end: where it stands when the kiln is done
    """

    node: str
    title: Sentence
    target_mc: float
    likely_days: float | None
    early_days: float | None
    late_days: float | None
    chance: float
    done_at: datetime | None
    meter_mc: float
    mean_mc: list[float | None]
    shell_mc: list[float | None]
    core_mc: list[float | None]
    outside_mc: list[float | None]
    cells_mc: list[list[float] | None]
    loss_per_day: list[float | None]
    safe_per_day: float | None
    loss_share: float | None
    shell_stress: float
    checks: Level
    honeycomb: Level
    outside_days: float | None
    outside_mc_then: float | None


class ChargeDay(Model):
    """A day of the usual season: the chamber's highest ten minutes and its lowest, what its air would bring wood to, water out, sun on level ground."""

    day: date
    peak_c: float
    low_c: float
    emc: float
    sun_kwh_m2: float
    water_kg: float
    dew_kg: float
    dripped_kg: float


class ChargeAhead(Model):
    """A charge from now to dry: in usual weather, and by chance; ``cell_widths`` are the shares of the half thickness that the groups' cells take, from the core to the face."""

    times: list[datetime]
    cell_widths: list[float]
    groups: list[GroupChance]
    days: list[ChargeDay]
    empty_peak_c: float
    ahead_days: int
    chance: float
    mould_hours: float
    m3_per_m2: float
    pull: Sentence
    beside: Sentence
    peaks: Sentence
    words: Sentence


class WeekSetting(Model):
    """A week: how far to open the vents, and what comes of it."""

    week: int
    first: date
    open_share: float
    mean_mc: list[float]
    loss_share: float | None
    peak_c: float
    why: Sentence


class WeekSettings(Model):
    """Vents week by week, against leaving them as they are."""

    weeks: list[WeekSetting]
    days: float | None
    days_as_is: float | None
    words: Sentence


class TodayOption(Model):
    """One thing to do today, and the days after: warmest air, its humidity, loss of the next day and mean of the fortnight by group, the largest loss by the safe rate."""

    title: Sentence
    is_mine: YesNo
    peak_c: float
    rh: float
    next_day: list[float]
    fortnight: list[float]
    worst_share: float | None
    checks: Level
    spec: BuildSpec
    load: LoadSpec | None


class TodayOptions(Model):
    """What shutting, opening and the rest do today; ``kinder`` says why some groups are at risk, and what weights and end paint change."""

    groups: list[Sentence]
    options: list[TodayOption]
    words: Sentence
    kinder: Sentence


class ChargeSize(Model):
    """A size of charge: wood by roof, days, and what a month of such charges gives; dry none where it is not by the end."""

    wood_m3: float
    m3_per_m2: float
    days: float | None
    m3_per_month: float | None
    loss_share: float | None
    checks: Level


class ChargeSizes(Model):
    """Sizes of charge for a roof, and the best of them."""

    sizes: list[ChargeSize]
    best_m3: float | None
    rule_m3: float
    words: Sentence


class KilnLink(Model):
    """A change over the whole charge: days to dry, how many sooner, and what it does to the risk."""

    title: Sentence
    part: str
    days: float | None
    sooner_days: float | None
    loss_share: float | None
    checks: Level
    price: float
    words: Sentence
    spec: BuildSpec
    load: LoadSpec | None


class KilnLinks(Model):
    """Changes ranked by the days that they save."""

    days: float | None
    checks: Level
    lines: list[KilnLink]
    words: Sentence


class SawLine(Model):
    """A group's green size for a planed one."""

    title: Sentence
    wide_mm: float
    thick_mm: float
    sawn_wide_mm: float
    sawn_thick_mm: float
    shrinks_wide_mm: float
    shrinks_thick_mm: float


class SawSizes(Model):
    """Sizes to saw for."""

    lines: list[SawLine]
    words: Sentence


class QueueLine(Model):
    """A stack in the queue, or a part of one where the kiln does not hold all of it.

    Attributes:
        place: its place in the order; none where it stays outside
        now_mc, in_mc: today, and when it goes in
        goes_in, dry_on: by usual weather; early and late: eight in ten
        outside_days: that it still stands outside
        kiln_days, green_days: in the kiln then, and if it had gone in green on its sawing day
        late_days: after it is wanted; none where no day was said
        dry_outside: when it is at its target outside; none where it never is within the year
    """

    stack: str
    title: Sentence
    part: str
    place: int | None
    wood_m3: float
    sawn_on: date
    wanted_by: date | None
    target_mc: float
    now_mc: float
    in_mc: float | None
    goes_in: date | None
    dry_on: date | None
    early: date | None
    late: date | None
    outside_days: int | None
    kiln_days: float | None
    green_days: float | None
    late_days: int | None
    dry_outside: date | None
    words: Sentence


class StartMonth(Model):
    """A charge like the queue's that goes in about the middle of a month: days, and charges a year if every one after it follows at once."""

    month: int
    days: float | None
    charges_a_year: float


class Regained(Model):
    """What a dry board takes up in store: moisture a week at first, and where it ends."""

    place: str
    week_mc: float
    ends_mc: float


class Queue(Model):
    """What goes in when, for a year."""

    lines: list[QueueLine]
    months: list[StartMonth]
    regained: list[Regained]
    kiln_free: date
    space_m3: float
    words: Sentence
    next_sawn: Sentence
    winter: Sentence
    air_first: Sentence
    store: Sentence
    sizes: list[Sentence]


class WoodMoney(Model):
    """What a kiln earns or saves.

    Attributes:
        cost_m3: of drying, by its parts: the kiln, work, electricity, what is lost
        added_m3: value added, over green wood and drying
        payback_years: until its parts are earned; none where it never does
        avoided_kwh: that a heated kiln would take for a year's charges
    """

    charges: float
    m3_a_year: float
    parts: dict[str, float]
    cost_m3: float
    cost_board_foot: float
    added_m3: float
    a_year: float
    payback_years: float | None
    avoided_kwh: float
    words: Sentence
    energy: Sentence


class BackupMonth(Model):
    """A charge that goes in in the middle of a month, without and with the back-up heat; none where it is not dry by the end."""

    month: int
    days_without: float | None
    days_with: float | None
    kwh: float


class Backup(Model):
    """What back-up heat brings through the cold half of the year against what it takes."""

    months: list[BackupMonth]
    charges_without: float
    charges_with: float
    kwh: float
    kwh_each: float | None
    price_each: float | None
    words: Sentence
