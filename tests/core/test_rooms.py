"""That a kind stays in its rooms: who names one outside, what is kept, what is collected, and files of former names."""

from __future__ import annotations

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from importlib import import_module
from pathlib import Path
from threading import Event

import pytest

from drylamp.core import builds, loads
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BUILD, KINDS
from drylamp.core.builds.starters import starters, starters_at
from drylamp.core.collect import module_if_any, rooms
from drylamp.core.kept import Kept
from drylamp.core.loads.registry import LOAD, LOADS
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.demo.scenario import LIDS, OVEN, STEW, TERRACE

HERE = Path(__file__).parents[2]
MOST_IN_CORE = 5


def test_hardly_anything_in_the_core_asks_who_somebody_is():
    listing = subprocess.run(
        [sys.executable, str(HERE / "scripts" / "kinds_outside"), "core"], capture_output=True, text=True, check=True
    ).stdout
    lines = [line.strip() for line in listing.splitlines() if line.startswith("  src/drylamp/core/")]
    assert 0 < len(lines) <= MOST_IN_CORE, listing
    reasons = (HERE / "docs" / "decisions.md").read_text(encoding="utf-8")
    for line in lines:
        assert line.split(":")[0].removeprefix("src/drylamp/core/") in reasons, f"no reason is given for {line}"


def test_every_room_is_found_and_what_they_share_is_none():
    assert len(rooms(builds)) == len(KINDS)
    assert len(rooms(loads)) == len(LOADS)
    assert not any(room.endswith(".common") for room in [*rooms(builds), *rooms(loads)])
    assert all(module_if_any(room, "kind") for room in rooms(builds))
    assert module_if_any(rooms(builds)[0], "no_such_module") is None


def test_every_kind_is_a_build_of_its_own_name():
    for name, kind in KINDS.items():
        assert issubclass(kind.spec, Build)
        assert kind.name == name
    assert set().union(*(row.kinds for row in PROTOCOLS.values())) <= set(KINDS)


def test_what_one_begins_with_faces_the_noon_sun_and_what_needs_least_comes_first():
    offered = starters_at(TERRACE)
    assert [one.rank for one in offered] == sorted(one.rank for one in offered)
    assert len(offered) == sum(len(of_kind) for of_kind in starters().values())
    assert {one.spec.facing_deg for one in offered} == {180.0}
    south = TERRACE.model_copy(update={"latitude_deg": -TERRACE.latitude_deg})
    assert {one.spec.facing_deg for one in starters_at(south)} == {0.0}


def test_files_of_former_names_are_still_read():
    old = LIDS.model_dump(mode="json") | {"kind": "coupons"}
    assert BUILD.validate_python(old) == LIDS
    unnamed = OVEN.model_dump(mode="json")
    del unnamed["kind"]
    assert BUILD.validate_python(unnamed) == OVEN
    goods = STEW.model_dump(mode="json")
    del goods["kind"]
    assert LOAD.validate_python(goods) == STEW


def test_what_is_kept_is_few_and_the_longest_unused_goes_first():
    kept: Kept[str, int] = Kept(2)
    made: list[str] = []

    def ask(key: str) -> int:
        def make() -> int:
            made.append(key)
            return len(made)

        return kept.get(key, make)

    assert [ask("a"), ask("b"), ask("a"), ask("c"), ask("a"), ask("b")] == [1, 2, 1, 3, 1, 4]
    assert made == ["a", "b", "c", "b"]
    kept.clear()
    assert ask("a") == 5


def test_threads_that_ask_at_once_wait_for_the_one_that_works_it_out():
    kept: Kept[str, object] = Kept(4)
    begun, go_on = Event(), Event()

    def slow() -> object:
        begun.set()
        assert go_on.wait(5)
        return object()

    with ThreadPoolExecutor(max_workers=2) as both:
        first = both.submit(kept.get, "a", slow)
        assert begun.wait(5)
        second = both.submit(kept.get, "a", lambda: pytest.fail("worked out twice"))
        go_on.set()
        assert first.result(5) is second.result(5)


def test_what_could_not_be_worked_out_is_tried_again():
    kept: Kept[str, int] = Kept(4)
    with pytest.raises(ZeroDivisionError):
        kept.get("a", lambda: 1 // 0)
    assert kept.get("a", lambda: 7) == 7


@pytest.mark.parametrize("kind", list(KINDS))
def test_protocols_keep_each_kinds_own_order(kind):
    room = next(room for room in rooms(builds) if import_module(f"{room}.kind").KIND.name == kind)
    own = [row.name for row in import_module(f"{room}.protocols").PROTOCOLS]
    listed = [name for name, row in PROTOCOLS.items() if kind in row.kinds]
    assert [name for name in listed if name in own] == own
    assert listed[-1] == "free-log"
