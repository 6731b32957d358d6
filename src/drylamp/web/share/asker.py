"""Who asks: somebody at this machine, or a device of the house's network that the gate let through."""

from __future__ import annotations

from typing import TYPE_CHECKING

from drylamp.store.devices import DeviceRow

if TYPE_CHECKING:
    from _typeshed.wsgi import WSGIEnvironment

DEVICE = "drylamp.device"
"""Where a request's environment holds the device; nothing of it where somebody at the machine asks."""
LOGGER = DeviceRow(0, "a logger with a trial's token", False, "", "", None)


def who(environ: WSGIEnvironment) -> DeviceRow | None:
    """The device of the house's network that asks; none where somebody at the machine does."""
    found = environ.get(DEVICE)
    return found if isinstance(found, DeviceRow) else None
