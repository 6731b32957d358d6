"""Made-up trials whose truth is known, read by the stand-in instruments."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import ChannelFacts, EventFacts, TrialFacts
from drylamp.core.trials.instruments import INSTRUMENTS
from drylamp.demo.scenario import LIDS, OVEN, TERRACE
from drylamp.instruments.logger import Planned, Truth, read_plan, round_plan

START = datetime.fromisoformat("2025-06-03T11:00:00+02:00")
ROUNDS = [30.0, 40.0, 50.0, 60.0]


def channel(node: str, instrument: str = "logger", **more: object) -> ChannelFacts:
    row = INSTRUMENTS[instrument]
    made = {"channel": node, "title": node, "node": node, "doubt": row.doubt, "quantity": row.quantity}
    return ChannelFacts(**{**made, **more}, times=[], values=[])


def blank(
    channels: list[ChannelFacts], protocol: str = "free-log", start: datetime = START, spot: str = "terrace",
    weather: ClearDay | None = None, load: PotLoad | None = None, events: list[EventFacts] | None = None,
) -> TrialFacts:  # fmt: skip
    return TrialFacts(
        name="t", protocol=protocol, started=start, spot=spot, weather=weather or ClearDay(tmin_c=14, tmax_c=25),
        load=load, preheated=False, channels=channels, events=events or [],
    )  # fmt: skip


def filled(facts: TrialFacts, truth: Truth, plan: list[Planned], build: BuildSpec = OVEN) -> TrialFacts:
    """The trial with what its instruments read at planned times."""
    found = list(read_plan(TERRACE, build, facts, truth, plan))
    channels = []
    for empty in facts.channels:
        mine = [s for s in found if s.channel == empty.channel]
        channels.append(empty.model_copy(update={"times": [s.time for s in mine], "values": [s.value for s in mine]}))
    return facts.model_copy(update={"channels": channels})


def logged(
    truth: Truth,
    nodes: tuple[str, ...] = ("tray", "inside-air"),
    hours: float = 5.0,
    every_min: float = 5.0,
    **more: object,
) -> TrialFacts:
    """An oven's day by a logger."""
    facts = blank([channel(node) for node in nodes], **more)
    plan = [(every_min * k, node) for k in range(int(hours * 60 / every_min)) for node in nodes]
    return filled(facts, truth, plan)


def walked(
    truth: Truth, minutes: list[float], build: Samples = LIDS, device: str = "one probe", protocol: str = "coating-comparison",
    events: list[EventFacts] | None = None, start: datetime = START, spot: str = "flat roof",
) -> TrialFacts:  # fmt: skip
    """Rounds over samples by one probe."""
    channels = [
        channel(s.node, "probe", channel=s.name, title=s.title, device=device and f"{device}") for s in build.samples
    ]
    facts = blank([*channels, channel("board", "probe", device=device), channel("air", "probe")], protocol, start, spot)
    facts = facts.model_copy(update={"events": events or [], "weather": ClearDay(tmin_c=14, tmax_c=25, wind_m_s=1.2)})
    return filled(facts, truth, round_plan(facts, build.walk, minutes), build)


def minutes_after(minutes: float, start: datetime = START) -> datetime:
    return start + timedelta(minutes=minutes)


def with_event(facts: TrialFacts, kind: str, minute: float, note: str = "", channel_: str = "") -> TrialFacts:
    event = EventFacts(kind=kind, time=facts.started + timedelta(minutes=minute), note=note, channel=channel_)
    return facts.model_copy(update={"events": [*facts.events, event]})


def noiseless(truth: Truth) -> Truth:
    return replace(truth, noise_k=0.0)
