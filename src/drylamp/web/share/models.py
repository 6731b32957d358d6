"""The shared door over the wire."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from drylamp.core.checks import Model, YesNo


class DeviceView(Model):
    """A paired device, and whether it is the one that asks."""

    id: int
    name: str
    guest: YesNo
    paired_at: datetime
    seen_at: datetime
    is_this: YesNo


class ShareView(Model):
    """How the house's network reaches this server.

    Attributes:
        on: whether it does
        at_machine: whether it is asked at the machine itself: only there are codes made and devices shut out
        addresses: where phones find it
        fingerprint: of its certificate, SHA-256
        this: the device that asks; none at the machine
        may_write: whether whoever asks may change things
    """

    on: YesNo
    at_machine: YesNo
    addresses: list[str]
    fingerprint: str
    this: DeviceView | None
    may_write: YesNo
    devices: list[DeviceView]


class NewInvitation(Model):
    """What somebody who is invited may do."""

    guest: YesNo = Field(default=False, description="Whether the device may only look")


class InvitationView(Model):
    """A code that works once: in two halves to be read out, as an address, and as a picture of that for a camera."""

    code: str
    guest: YesNo
    url: str
    picture: str = Field(description="An SVG as a data address")
    minutes: int
