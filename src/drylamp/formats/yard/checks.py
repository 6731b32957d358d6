"""What must hold between the parts of a yard file, so that nothing in it points to what is not there or could not be looked at again."""

from __future__ import annotations

from collections.abc import Callable

from pydantic import ValidationError

from drylamp.core.builds.registry import BUILD
from drylamp.core.checks import InputProblem, explain, require, unknown_name
from drylamp.core.loads.registry import LOAD
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import INSTRUMENTS
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.calibration import Calibration
from drylamp.formats.yard.parts import BuildPart, Doc, RevisionPart, TrialPart


def check_builds(builds: list[BuildPart], where: str) -> None:
    """What the builds of one site say of each other."""
    by_key = {build.key: build for build in builds}
    require(len(by_key) == len(builds), where, "two builds have one key in this file")
    for build in builds:
        for trial in build.trials:
            _check_boxes(trial, by_key, where)
        _check_branch(build, by_key, where)


def _check_boxes(trial: TrialPart, by_key: dict[int, BuildPart], where: str) -> None:
    """Every box of a class has a channel, and is like a build that is here."""
    names = {channel.name for channel in trial.channels}
    for box in trial.boxes:
        known = box.build is None or box.build_revision in _numbers(by_key.get(box.build))
        require(
            known and box.channel in names,
            where,
            f"a box of {trial.name} is like build {box.build} at revision {box.build_revision} by channel '{box.channel}', which is not in this file",
        )


def _check_branch(build: BuildPart, by_key: dict[int, BuildPart], where: str) -> None:
    """A variant branched off a revision that is here, and not off itself, by whatever way round."""
    if build.variant_of is None:
        return
    base = by_key.get(build.variant_of)
    require(
        build.variant_from in _numbers(base),
        where,
        f"build {build.key} is a variant of {build.variant_of} at revision {build.variant_from}, which is not in this file",
    )
    seen = {build.key}
    while base is not None:
        require(base.key not in seen, where, f"build {build.key} is a variant of itself")
        seen.add(base.key)
        base = by_key.get(base.variant_of or 0)


def _numbers(build: BuildPart | None) -> set[int]:
    return set() if build is None else {one.number for one in build.revisions}


def checked_build(build: BuildPart, at: str) -> list[str]:
    """Names of the files that a build speaks of, all else about it looked at."""
    numbers = {one.number: one for one in build.revisions}
    require(len(numbers) == len(build.revisions), f"{at}.revisions", "a number comes twice")
    require(
        build.revision in numbers,
        f"{at}.revision",
        f"{build.revision} was given, and there is no such revision in it",
    )
    _readable(build.newest, at)
    out, keys = list[str](), {trial.key for trial in build.trials}
    for t, trial in enumerate(build.trials):
        here = f"{at}.trials.{t}"
        require(
            trial.build_revision in numbers,
            f"{here}.build_revision",
            f"{trial.build_revision} was given, and there is no such revision in it",
        )
        _readable(numbers[trial.build_revision], at)
        _checked_trial(trial, here)
        out += [photo.file for photo in trial.photos] + ([] if trial.readings is None else [trial.readings])
    for c, calibration in enumerate(build.calibrations):
        known = calibration.trial in keys and calibration.build_revision in numbers
        require(known, f"{at}.calibrations.{c}", "it speaks of a trial or a revision that is not in the file")
        _read_as(Calibration.model_validate, calibration.adjustments, f"{at}.calibrations.{c}.adjustments", "it")
    return out


def _checked_trial(trial: TrialPart, at: str) -> None:
    """Refuse a trial that could not be looked at again."""
    if trial.protocol not in PROTOCOLS:
        raise unknown_name(f"{at}.protocol", trial.protocol, PROTOCOLS)
    names = [channel.name for channel in trial.channels]
    require(len(set(names)) == len(names), f"{at}.channels", "a name comes twice")
    for channel in trial.channels:
        if channel.instrument not in INSTRUMENTS:
            raise unknown_name(f"{at}.channels.{channel.name}.instrument", channel.instrument, INSTRUMENTS)
    _read_as(ClearDay.model_validate, trial.weather, f"{at}.weather", trial.name)
    if trial.load is not None:
        _read_as(LOAD.validate_python, trial.load, f"{at}.load", trial.name)
    if trial.goal is not None:
        _read_as(Goal.model_validate, trial.goal, f"{at}.goal", trial.name)


def _readable(one: RevisionPart, at: str) -> None:
    _read_as(BUILD.validate_python, one.spec, f"{at}.spec", one.name)
    if one.load is not None:
        _read_as(LOAD.validate_python, one.load, f"{at}.load", one.name)


def _read_as(read: Callable[[Doc], object], doc: Doc, at: str, name: str) -> None:
    """Refuse a part that cannot be read as what it is to be, at its field."""
    try:
        read(doc)
    except ValidationError as error:
        first = explain(error)[0]
        raise InputProblem(f"{at}.{first.field}".rstrip("."), f"{name}: {first.message}") from None
