"""The shared door: how it is reached, codes for new devices, and shutting one out."""

from __future__ import annotations

import sqlite3
from datetime import datetime

from flask import Response

from drylamp.core.checks import InputProblem
from drylamp.store import devices
from drylamp.store.devices import DeviceRow
from drylamp.web import context
from drylamp.web.routed import also_refuses, as_file, blueprint
from drylamp.web.share.models import DeviceView, InvitationView, NewInvitation, ShareView
from drylamp.web.share.pairing import LASTS_S, shown
from drylamp.web.share.share import Share, qr_of
from drylamp.web.shared import Id

api = blueprint("share", "/api/share")
AT_MACHINE = "this is done at the machine that runs Dry Lamp, not from a paired device"
NOT_SHARED = "the server listens on this machine only; end it and begin it anew with drylamp serve --share"


@api.get("", responses={200: ShareView})
def share() -> Response:
    """Say how the house's network reaches this server, and, at the machine, which devices were let in."""
    with context.database() as db:
        return context.answer(_view(db))


@api.get("/certificate", responses=as_file("application/x-x509-ca-cert"))
@also_refuses(403)
def certificate() -> Response:
    """The certificate of the shared address, for a paired device to trust: only then may it install the page."""
    door = context.settings().share
    if door is None:
        raise InputProblem("share", NOT_SHARED)
    return context.attachment(
        door.identity.certificate.read_bytes(), "application/x-x509-ca-cert", "dry-lamp-certificate.crt"
    )


def _view(db: sqlite3.Connection) -> ShareView:
    door, asks = context.settings().share, context.device()
    let_in = devices.list_devices(db) if asks is None else [asks]
    views = [_device(row, asks) for row in let_in]
    return ShareView(
        on=door is not None, at_machine=asks is None, addresses=[] if door is None else [door.url()],
        fingerprint="" if door is None else door.identity.fingerprint, this=next((one for one in views if one.is_this), None),
        may_write=not context.is_guest(), devices=views if asks is None else [],
    )  # fmt: skip


def _device(row: DeviceRow, asks: DeviceRow | None) -> DeviceView:
    return DeviceView(
        id=row.id, name=row.name, guest=row.guest, paired_at=datetime.fromisoformat(row.paired_at), seen_at=datetime.fromisoformat(row.seen_at),
        is_this=asks is not None and asks.id == row.id,
    )  # fmt: skip


@api.post("/invitations", responses={201: InvitationView})
@also_refuses(403)
def invite(body: NewInvitation) -> Response:
    """Make a code that lets one device in; stores nothing."""
    door = _at_machine()
    made = door.pairing.invite(body.guest)
    url = door.url(f"/pair?code={made.code}")
    picture = qr_of(url).svg_data_uri(scale=5, border=2, dark="#22201C", light="#FFFDF6")
    view = InvitationView(
        code=shown(made.code), guest=made.guest, url=url, picture=picture, minutes=round(LASTS_S / 60)
    )
    return context.answer(view, 201)


@api.post("/devices/<int:id>/revoke", responses={200: ShareView})
@also_refuses(403)
def revoke(path: Id) -> Response:
    """Shut a device out: its next request meets the pairing page."""
    _only_at_machine()
    with context.writing() as db:
        devices.revoke(db, path.id, context.stamp())
        return context.answer(_view(db))


def _only_at_machine() -> None:
    if context.device() is not None:
        raise context.GuestError(AT_MACHINE)


def _at_machine() -> Share:
    _only_at_machine()
    door = context.settings().share
    if door is None:
        raise InputProblem("share", NOT_SHARED)
    return door
