"""Kinds of build and of load, and one field of a build changed with all that follows from it."""

from __future__ import annotations

from functools import cache
from typing import TypeVar

from flask import Response

from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, Model
from drylamp.core.forms import Path, added, changed, read_path, removed
from drylamp.web import context
from drylamp.web.kinds.models import Changed, Done, Forms, Kinds, Made
from drylamp.web.kinds.present import all_forms, all_kinds
from drylamp.web.routed import blueprint

M = TypeVar("M", bound=Model)
api = blueprint("kinds", "/api/kinds")


@api.get("", responses={200: Kinds})
def list_all() -> Response:
    """List every kind of build and of load."""
    return Response(_kinds(), mimetype="application/json")


@api.get("/forms", responses={200: Forms})
def list_forms() -> Response:
    """List what may be typed into each kind of build and of load."""
    return Response(_forms(), mimetype="application/json")


@api.post("/change", responses={200: Made})
def change(body: Changed) -> Response:
    """Change one field with all that follows from it, add one more to a list, or take something out; stores nothing."""
    path = read_path(body.path)
    if body.of == "spec":
        return context.answer(Made(spec=_after(body, body.spec, path), load=body.load))
    if body.load is None:
        raise InputProblem("load", "nothing is in it; put something in first")
    return context.answer(Made(spec=body.spec, load=_after(body, body.load, path)))


@cache
def _kinds() -> str:
    """Nothing of it changes while the program runs."""
    return all_kinds().model_dump_json()


@cache
def _forms() -> str:
    return all_forms().model_dump_json()


def _after(body: Changed, model: M, path: Path) -> M:
    if body.how == "set":
        return changed(model, path, body.value)
    return added(model, path) if body.how == "add" else removed(model, path)


@api.post("/act", responses={200: Made})
def act(body: Done) -> Response:
    """Do to a build what its kind knows; stores nothing."""
    actions = kind_of(body.spec).actions
    if body.action not in actions:
        raise InputProblem("action", f"'{body.action}' is not known; known: {', '.join(actions) or 'none'}")
    return context.answer(Made(spec=actions[body.action].done(body.spec, body.seed), load=None))
