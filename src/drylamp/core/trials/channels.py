"""Which channels a trial of a build may have: what its protocol wants read, as far as the build and its load have it, and what else can be."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.coil.rows import ROWS
from drylamp.core.builds.common.protocols import BUCKET, EACH_ROW, IN, OUT
from drylamp.core.builds.protocol import INLET, OUTLET, PUMP, Wanted
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, Model, YesNo
from drylamp.core.common.look import CurveLook, looks_of
from drylamp.core.heat.parts import Node, Role
from drylamp.core.loads.load import Load, Reader
from drylamp.core.trials.facts import WEATHER_NODES
from drylamp.core.trials.instruments import Quantity, check_infrared, find_instrument
from drylamp.core.trials.protocols import Protocol
from drylamp.core.twin.light import traced

OUTSIDE = "outside"
"""Where a control stands."""
ON_SCALE = "load"
"""What a scale carries."""


class Channel(Model):
    """A channel to begin with."""

    name: str
    title: str
    node: str
    is_control: YesNo = False
    instrument: str = "probe"


class ReadPlace(Model):
    """Something of a build, of what is in it or of the weather that can be read, and the channel that it would be.

    Attributes:
        look: how its temperature is drawn
        of_load: it is there only with the load in
        inside: it is of the build, not of the weather or a control
    """

    channel: Channel
    look: CurveLook
    of_load: YesNo
    inside: YesNo


class Line(Model):
    """A channel as the start of a trial offers it.

    Attributes:
        wanted: the protocol wants it
        walked: one probe walks along these in rounds
    """

    place: ReadPlace
    wanted: YesNo
    walked: YesNo


AROUND = (
    Channel(name="control", title="control beside it", node=OUTSIDE, is_control=True),
    Channel(name="air", title="air outside", node="air"),
    Channel(name="sun", title="sun on level ground", node="sun", instrument="pyranometer"),
    Channel(name="wind", title="wind", node="wind", instrument="anemometer"),
    Channel(name="humidity", title="humidity outside", node="air", instrument="humidity-probe"),
)
AT_TAP = tuple(Channel(name=w.node, title=w.title, node=w.node, instrument=w.instrument) for w in (OUT, IN, BUCKET))
METER = Channel(name=PUMP, title="hours of the pump", node=PUMP, instrument="hour-meter")
SCALE = Channel(name=ON_SCALE, title="what stands on the scale", node=ON_SCALE, instrument="scale")
AIR_LOOK = CurveLook(ink="soft", width=1)
OUT_LOOK, IN_LOOK = CurveLook(ink="rust", width=2.5), CurveLook(ink="water", width=1.5)
TOUCHED: frozenset[Role] = frozenset(("wanted", "core", "several"))
"""What one reads by hand with a kitchen probe; to the rest a wire leads through the seal."""


def places(build: Build, load: Load | None) -> list[ReadPlace]:
    """All that can be read, the build and its load first.

    Raises
    ------
    InputProblem
        the load does not fit.
    """
    kind_of(build).check_fit(build, load)
    nodes = traced(build, load).network.readable
    own = set(traced(build, None).network.names)
    looks = looks_of({node.name: node.role for node in nodes})
    inside = [
        ReadPlace(channel=_channel(node), look=looks[node.name], of_load=node.name not in own, inside=True)
        for node in nodes
        if node.role != "inner"
    ]
    weighed = [SCALE] if load is not None and load.scale_kg(0.0) is not None else []
    around = [ReadPlace(channel=c, look=AIR_LOOK, of_load=c is SCALE, inside=False) for c in (*AROUND, *weighed)]
    return [*inside, *_at_tap(build, load), *_metered(load), *around]


def _at_tap(build: Build, load: Load | None) -> list[ReadPlace]:
    """What is read where water leaves, and of each of its rows."""
    if load is None or not load.tap:
        return []
    rows = [_of_several(row, EACH_ROW) for row in build.readers().get(ROWS, [])]
    return [
        ReadPlace(
            channel=channel,
            look=OUT_LOOK if channel.node == OUTLET else IN_LOOK,
            of_load=True,
            inside=channel.node == OUTLET,
        )
        for channel in (*AT_TAP, *rows)
    ]


def _metered(load: Load | None) -> list[ReadPlace]:
    """The hours of its pump, where it has one."""
    return (
        [
            ReadPlace(
                channel=METER.model_copy(update={"title": load.meter_title}), look=AIR_LOOK, of_load=True, inside=False
            )
        ]
        if load is not None and load.pumped
        else []
    )


def _channel(node: Node) -> Channel:
    instrument = "probe" if node.role in TOUCHED else "wired-probe"
    return Channel(name=node.name, title=node.title, node=node.name, instrument=instrument)


def lines_for(protocol: Protocol, build: Build, load: Load | None) -> list[Line]:
    """What a protocol wants read, as far as it is there, then what else could be.

    Raises
    ------
    InputProblem
        the load does not fit.
    """
    all_places = places(build, load)
    by_node = {place.channel.node: place for place in reversed(all_places)}
    walk = set(build.walk) if protocol.in_rounds else set()
    out: list[Line] = []
    for channel, is_wanted in _asked(protocol, build, load):
        like = by_node.get(channel.node)
        place = ReadPlace(
            channel=channel,
            look=AIR_LOOK if like is None else like.look,
            of_load=False if like is None else like.of_load,
            inside=like is not None and like.inside and not channel.is_control,
        )
        out.append(Line(place=place, wanted=is_wanted, walked=channel.node in walk))
    have = {line.place.channel.node for line in out}
    more = [place for place in all_places if place.channel.node not in have]
    return [*out, *(Line(place=place, wanted=False, walked=place.channel.node in walk) for place in more)]


def _asked(protocol: Protocol, build: Build, load: Load | None) -> list[tuple[Channel, bool]]:
    """Channels that a protocol names and that are there, and whether it wants them or only would like them."""
    at_tap = [place.channel.node for place in (*_at_tap(build, load), *_metered(load))]
    there = {*(node.name for node in traced(build, load).network.readable), *WEATHER_NODES, OUTSIDE, *at_tap}
    several = build.readers() | ({} if load is None else load.readers())
    out: list[tuple[Channel, bool]] = []
    for wanted in protocol.channels:
        if wanted.node in several:
            out += [(_of_several(reader, wanted), not wanted.optional) for reader in several[wanted.node]]
        elif wanted.node in there:
            name = "control" if wanted.is_control else wanted.node
            made = Channel(
                name=name,
                title=wanted.title,
                node=wanted.node,
                is_control=wanted.is_control,
                instrument=wanted.instrument,
            )
            out.append((made, not wanted.optional))
    if not any(is_wanted and channel.node not in (*WEATHER_NODES, OUTSIDE) for channel, is_wanted in out):
        out.insert(0, (_hottest_part(build, protocol.channels[0].instrument), True))
    return out


def usual_channels(protocol: Protocol, build: Build, load: Load | None) -> list[Channel]:
    """What a protocol wants read; optional channels, and those of parts that the build does not have, are left out.

    When nothing of the build itself is left, its hottest part is read.
    """
    return [channel for channel, is_wanted in _asked(protocol, build, load) if is_wanted]


def _hottest_part(build: Build, instrument: str) -> Channel:
    kind = kind_of(build)
    node = kind.stagnation_node(build)
    return Channel(name=node, title=kind.parts.get(node, node.replace("-", " ")), node=node, instrument=instrument)


def _of_several(reader: Reader, wanted: Wanted) -> Channel:
    return Channel(name=reader.name, title=reader.title, node=reader.node, instrument=wanted.instrument)


@dataclass(frozen=True)
class ReadAs:
    """What follows from a channel's instrument: its quantity, its doubt, and the device whose error it shares."""

    quantity: Quantity
    doubt: float
    device: str


def read_as(
    protocol: Protocol, build: Build, node: str, instrument: str, given: tuple[Quantity | None, float | None, str]
) -> ReadAs:
    """Return what a channel is: the instrument's own doubt where none is given, one device where a probe walks.

    Parameters
    ----------
    given
        quantity, doubt and device, as far as somebody named them

    Raises
    ------
    InputProblem
        there is no such instrument, it reads something else, or it cannot see this surface.
    """
    found, (quantity, doubt, device) = find_instrument(instrument), given
    if quantity not in (None, found.quantity):
        raise InputProblem(
            "quantity", f"'{quantity}' was given, but {found.title} reads {found.quantity}; choose one that fits"
        )
    if instrument == "infrared":
        check_infrared(build, node)
    walked = (protocol.in_rounds and node in build.walk) or (protocol.one_thermometer and node in (INLET, OUTLET))
    return ReadAs(found.quantity, doubt or found.doubt, device or (f"one {instrument}" if walked else ""))
