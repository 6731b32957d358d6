"""The door to the house's network: its listeners, and what the terminal says of it."""

from __future__ import annotations

import io
import shutil
import tempfile
import threading
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from drylamp.commands.shared import Sharing, refused
from drylamp.store.database import Database
from drylamp.web.settings import wall_clock
from drylamp.web.share.gate import Gate, IngestOnly
from drylamp.web.share.pairing import LASTS_S, shown
from drylamp.web.share.relay import Relay
from drylamp.web.share.share import Share, begin, qr_of

if TYPE_CHECKING:
    from _typeshed.wsgi import WSGIApplication

EVERYWHERE = "0.0.0.0"


@dataclass
class SharedDoor:
    """The shared door, made ready before the app is there, and opened once it is known what stands behind it."""

    share: Share
    data: Path
    wanted: Sharing
    _store: Database | None = None
    _relays: list[Relay] = field(default_factory=list)
    _behind_them: list[tuple[Any, threading.Thread]] = field(default_factory=list)
    _folder: Path = field(default_factory=lambda: Path(tempfile.mkdtemp(prefix="drylamp-share-")))

    def open(self, inner: WSGIApplication, host: str = EVERYWHERE) -> None:
        """Listen.

        Raises
        ------
        InputProblem
            a port cannot be used.
        """
        self._store = Database(self.data)
        gate = Gate(inner, self.share, self._store)
        first = self._behind(gate, self.wanted.share_port, "--share-port", host, tls=True)
        self.share.port = first.port
        if self.wanted.ingest_port is not None:
            self._behind(IngestOnly(inner), self.wanted.ingest_port, "--ingest-port", host, tls=False)

    def _behind(self, app: WSGIApplication, port: int, option: str, host: str, *, tls: bool) -> Relay:
        from drylamp.web.serving import listen_behind

        socket = self._folder / f"{option.strip('-')}.socket"
        try:
            relay = Relay(host, port, self.share.identity.context() if tls else None, socket)
        except OSError as error:
            raise refused(option, f"port {port} cannot be used ({error.strerror}); choose another") from None
        server = listen_behind(app, socket)
        running = threading.Thread(target=server.run, name=f"behind {option}", daemon=True)
        running.start()
        self._behind_them.append((server, running))
        relay.start()
        self._relays.append(relay)
        return relay

    @property
    def ingest_port(self) -> int | None:
        """Where loggers without TLS post; none where they may not."""
        return self._relays[1].port if len(self._relays) > 1 else None

    def close(self) -> None:
        """Listen no more."""
        for relay in self._relays:
            relay.stop()
        for server, running in self._behind_them:
            server.close()
            running.join(timeout=10.0)
        if self._store is not None:
            self._store.close()
        shutil.rmtree(self._folder, ignore_errors=True)

    def told(self) -> str:
        """What the terminal says: address, fingerprint, and a first code as letters and as a picture."""
        made = self.share.pairing.invite(guest=False)
        picture = io.StringIO()
        qr_of(self.share.url(f"/pair?code={made.code}")).terminal(picture, compact=True, border=2)
        new = " (new: devices will ask about it)" if self.share.identity.is_new else ""
        plain = (
            ""
            if self.ingest_port is None
            else f"\nLoggers without TLS post readings to http://{self.share.addresses[0]}:{self.ingest_port}/; nothing on that way is secret."
        )
        return (
            f"Shared with this house's network at {self.share.url()}\nFingerprint of its certificate{new}: {self.share.identity.fingerprint}\n"
            f"Pair a device within {LASTS_S / 60:.0f} minutes by code {shown(made.code)}, or by this picture:\n{picture.getvalue()}{plain}"
        )


def prepare(data: Path, wanted: Sharing) -> SharedDoor:
    """Make ready to share a yard.

    Raises
    ------
    InputProblem
        key or secret cannot be kept in the data folder.
    """
    data.parent.mkdir(parents=True, exist_ok=True)
    return SharedDoor(begin(data.parent, wall_clock), data, wanted)
