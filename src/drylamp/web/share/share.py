"""What is shared with the house's network: under which addresses, with which certificate, and who was let in."""

from __future__ import annotations

import secrets
import sqlite3
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path

import segno
from itsdangerous import BadSignature, URLSafeSerializer

from drylamp.core.checks import InputProblem
from drylamp.store import devices
from drylamp.store.database import atomic
from drylamp.store.devices import DeviceRow
from drylamp.web.share.certificate import Identity, identity, secret_of
from drylamp.web.share.network import LOOPBACK, own_addresses, own_names
from drylamp.web.share.pairing import Invitation, Pairing

COOKIE = "__Host-drylamp"
"""The prefix makes browsers keep it to this host, to all of it, and to TLS."""
LASTS_S = 400 * 86_400
SEEN_EVERY = timedelta(minutes=1)
LONGEST_NAME = 60


@dataclass
class Share:
    """The shared door. ``port`` is set once it listens.

    Attributes:
        names: addresses and names under which this machine may be asked
        now: the wall clock, for what is written down of devices
    """

    names: tuple[str, ...]
    identity: Identity
    pairing: Pairing
    signer: URLSafeSerializer
    now: Callable[[], datetime]
    port: int = 0
    addresses: tuple[str, ...] = field(default=())

    def url(self, path: str = "/") -> str:
        """Where a phone finds it."""
        return f"https://{self.addresses[0]}:{self.port}{path}"

    def hosts(self) -> set[str]:
        """What a request may name as its host."""
        return {f"{name}:{self.port}" for name in self.names} | (set(self.names) if self.port == 443 else set())

    def device_of(self, db: sqlite3.Connection, cookie: str) -> DeviceRow | None:
        """Whose cookie it is; none where it was not signed here, or its device was shut out."""
        try:
            number, mark = self.signer.loads(cookie)
            found = devices.find_device(db, int(number), str(mark))
        except (BadSignature, ValueError, TypeError):
            return None
        if found is not None and self.now() - datetime.fromisoformat(found.seen_at) > SEEN_EVERY:
            with atomic(db):
                devices.seen(db, found.id, self._stamp())
        return found

    def let_in(self, db: sqlite3.Connection, invitation: Invitation, name: str) -> str:
        """Write a device down and give it its cookie.

        Raises
        ------
        InputProblem
            there are too many.
        """
        mark = secrets.token_urlsafe(24)
        with atomic(db):
            if devices.count_devices(db) >= devices.MOST_DEVICES:
                raise InputProblem("device", f"{devices.MOST_DEVICES} devices are paired; shut one out first")
            called = " ".join(name.split())[:LONGEST_NAME] or "a phone without a name"
            number = devices.add_device(db, called, invitation.guest, mark, self._stamp())
        signed = self.signer.dumps([number, mark])
        return signed if isinstance(signed, str) else signed.decode()

    def _stamp(self) -> str:
        return self.now().isoformat(timespec="seconds")


def begin(folder: Path, now: Callable[[], datetime]) -> Share:
    """Make ready to share what is in a data folder.

    Raises
    ------
    InputProblem
        key or secret cannot be kept there.
    """
    addresses = own_addresses()
    names = tuple(dict.fromkeys((*addresses, LOOPBACK, *own_names())))
    signer = URLSafeSerializer(secret_of(folder), salt="drylamp paired device")
    return Share(
        names, identity(folder, names, now()), Pairing(time.monotonic), signer, now, addresses=tuple(addresses)
    )


def qr_of(url: str) -> segno.QRCode:
    """A picture of an address for a phone's camera."""
    return segno.make(url, error="m", micro=False)
