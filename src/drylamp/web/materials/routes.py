"""The shelf: listed materials, and a user's own beside them."""

from __future__ import annotations

from typing import cast

from flask import Response

from drylamp.core import tables
from drylamp.core.forms import form_of
from drylamp.core.optics.covers import normal_transmittance
from drylamp.core.shelf import listed, says
from drylamp.core.shelf_curve import does
from drylamp.core.tables import Absorber, Cover, Layer, Mirror, Row
from drylamp.store import materials
from drylamp.store.materials import MaterialRow
from drylamp.web import context
from drylamp.web.materials.models import FamilyName, Materials, NewMaterial, OwnMaterial
from drylamp.web.routed import blueprint, needs_mark
from drylamp.web.shared import Id

api = blueprint("materials", "/api/materials")


@api.get("", responses={200: Materials})
def shelf() -> Response:
    """List all tables, own materials after the listed ones."""
    with context.database() as db:
        own = materials.list_materials(db)

    def mine(family: str) -> list[Row]:
        return [kept.row for kept in own if kept.family == family]

    covers = [*tables.covers().values(), *cast(list[Cover], mine("cover"))]
    return context.answer(
        Materials(
            absorbers=[*tables.absorbers().values(), *cast(list[Absorber], mine("absorber"))],
            covers=covers,
            mirrors=[*tables.mirrors().values(), *cast(list[Mirror], mine("mirror"))],
            layers=[*tables.layers().values(), *cast(list[Layer], mine("layer"))],
            foods=list(tables.foods().values()),
            vessels=list(tables.vessels().values()),
            sweets=list(tables.sweets().values()),
            waxes=list(tables.waxes().values()),
            pipes=list(tables.pipes().values()),
            own=[_view(kept) for kept in own],
            forms={family: form_of(made.model) for family, made in tables.FAMILIES.items()},
            says={
                **{f"{family}/{row.name}": says(row) for family, row in listed()},
                **{f"{kept.family}/{kept.row.name}": says(kept.row) for kept in own},
            },
            does={
                **{f"{family}/{row.name}": does(row) for family, row in listed() if family in tables.FAMILIES},
                **{f"{kept.family}/{kept.row.name}": does(kept.row) for kept in own},
            },
            lets_through={row.name: normal_transmittance(row) for row in covers},
        )
    )


@api.post("", responses={201: OwnMaterial})
def add(body: NewMaterial) -> Response:
    """Put a material of one's own on the shelf."""
    ((family, row),) = body.given.items()
    with context.writing() as db:
        kept = materials.add_material(db, family, row)
        return context.answer(_view(kept), 201, kept.revision)


@api.put("/<int:id>", responses={200: OwnMaterial})
@needs_mark
def change(path: Id, body: NewMaterial) -> Response:
    """Change an own material; needs If-Match. Builds keep the row they were made with."""
    ((family, row),) = body.given.items()
    with context.writing() as db:
        kept = materials.change_material(db, path.id, family, row, context.seen_revision())
        return context.answer(_view(kept), revision=kept.revision)


@api.delete("/<int:id>", responses={200: OwnMaterial})
@needs_mark
def remove(path: Id) -> Response:
    """Take an own material off the shelf; needs If-Match. It can be put back."""
    with context.writing() as db:
        kept = materials.get_material(db, path.id)
        materials.remove_material(db, path.id, context.seen_revision(), context.stamp())
        return context.answer(_view(kept), revision=kept.revision)


@api.post("/<int:id>/restore", responses={200: OwnMaterial})
def restore(path: Id) -> Response:
    """Put a removed material back."""
    with context.writing() as db:
        kept = materials.restore_material(db, path.id)
        return context.answer(_view(kept), revision=kept.revision)


def _view(kept: MaterialRow) -> OwnMaterial:
    return OwnMaterial(id=kept.id, family=cast(FamilyName, kept.family), name=kept.row.name, revision=kept.revision)
