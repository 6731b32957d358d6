"""What all tests share: the scenario's site and oven, a clear June day, and an app on a temporary data file."""

from __future__ import annotations

import gc
import os

from drylamp.core import builds

if os.environ.get("DRYLAMP_TEST_KINDS"):  # kinds that only tests know, before any registry looks
    builds.__path__.append(os.environ["DRYLAMP_TEST_KINDS"])

from collections.abc import Iterator
from datetime import date
from pathlib import Path

import pytest
from flask import Response
from flask.testing import FlaskClient
from xdist.remote import Producer
from xdist.scheduler import LoadScopeScheduling
from xdist.workermanage import WorkerController

from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span, Weather
from drylamp.demo.scenario import OVEN, STEW, TERRACE, demo_now
from drylamp.store.database import Database
from drylamp.web.app import create_app
from drylamp.web.settings import Settings
from tests import seeded


def pytest_configure(config: pytest.Config) -> None:
    """One folder of seeds for all workers."""
    if not hasattr(config, "workerinput"):
        seeded.begin()


def pytest_unconfigure(config: pytest.Config) -> None:
    """Take it away."""
    if not hasattr(config, "workerinput"):
        seeded.end()


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What drives the browser may fail once by the machine's doing, and is named at the end then; twice is a fault. Any test may meet Python's own."""
    for item in items:
        by_machine = {} if item.nodeid.startswith(BROWSER) else {"only_rerun": [PYTHONS_OWN]}
        item.add_marker(pytest.mark.flaky(reruns=RERUNS, **by_machine))


def pytest_collection_finish() -> None:
    """What is loaded by now stays to the end: that it is looked through for rubbish again and again is one fifteenth of all the time."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 20)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Producer) -> LoadScopeScheduling:
    """Workers share the tests: one begins with those that drive the browser, the others with the rest, and whoever is through helps."""
    return OneBrowserFirst(config, log)


class OneBrowserFirst(LoadScopeScheduling):
    """A module that drives the browser is one piece of work, for its yard is made once; each other test is another. xdist's own groups are lost in this pytest.

    The longest pieces come first, and what is in the smallest of the browser last, so that all are through at about the same time.
    """

    def _split_scope(self, nodeid: str) -> str:
        module = nodeid.split("::")[0]
        return module if module.startswith(BROWSER) and module != ONE_BY_ONE else nodeid

    def _assign_work_unit(self, node: WorkerController) -> None:
        drives = self.nodes.index(node) == 0
        mine = [scope for scope in self.workqueue if scope.startswith(BROWSER) == drives] or list(self.workqueue)
        self.workqueue.move_to_end(min(mine, key=_turn), last=False)
        super()._assign_work_unit(node)


def _turn(scope: str) -> int:
    """Which pieces of what drives the browser come first."""
    return 2 if scope.startswith(ONE_BY_ONE) else int("journeys" not in scope and "words" not in scope)


BROWSER = "tests/ui/"
ONE_BY_ONE = "tests/ui/test_pages.py"
"""Looks only, at the yard that all share: each view is a piece of its own."""
PYTHONS_OWN = "AST constructor recursion depth mismatch"
"""CPython 3.11 counts the depth of all threads' syntax trees in one place (gh-106905): a traceback that one thread writes may spoil the route that another compiles."""
RERUNS = int(os.environ.get("DRYLAMP_RERUNS", "1"))


JUNE = date(2025, 6, 12)
WARM_DAY = ClearDay(tmin_c=15.0, tmax_c=26.0, rh=0.55, wind_m_s=2.0)


@pytest.fixture
def site() -> Site:
    return TERRACE


@pytest.fixture
def oven() -> BoxOven:
    return OVEN


@pytest.fixture
def stew() -> PotLoad:
    return STEW


@pytest.fixture(scope="session")
def june() -> Weather:
    return weather_of(TERRACE, WARM_DAY, Span(start=JUNE))


@pytest.fixture(scope="session")
def grey() -> Weather:
    return weather_of(TERRACE, WARM_DAY.model_copy(update={"sky": "grey"}), Span(start=JUNE))


@pytest.fixture
def open_site() -> Site:
    """The same place with nothing on its skyline."""
    return Site(name="open", latitude_deg=41.2, longitude_deg=1.1, elevation_m=480.0, time_zone="Europe/Madrid")


@pytest.fixture
def database(tmp_path: Path) -> Iterator[Database]:
    made = Database(tmp_path / "yard.sqlite3")
    yield made
    made.close()


def _no_mark_leaves(answer: Response) -> Response:
    """A quantity within a sentence leaves as one, never as the mark that stands for it inside."""
    text = answer.get_data(as_text=True) if answer.is_json else ""
    assert "⦃" not in text, text[max(0, text.find("⦃") - 200) : text.find("⦃") + 100]
    return answer


@pytest.fixture
def client(tmp_path: Path) -> Iterator[FlaskClient]:
    """A client of an app with one site and no builds; its clock stands still at the demo's noon."""
    app = create_app(Settings(data=tmp_path / "web.sqlite3", now=demo_now))
    app.config["TESTING"] = False
    app.after_request(_no_mark_leaves)
    with app.test_client() as made:
        answer = made.post("/api/sites", json=TERRACE.model_dump(mode="json"))
        assert answer.status_code == 201
        yield made
    app.config["DATABASE"].close()


@pytest.fixture
def build(client: FlaskClient) -> dict:
    """The oven, stored."""
    body = {
        "site_id": 1,
        "name": "Hatbox oven",
        "spot": "terrace",
        "spec": OVEN.model_dump(mode="json"),
        "load": STEW.model_dump(mode="json"),
    }
    answer = client.post("/api/builds", json=body)
    assert answer.status_code == 201, answer.text
    return answer.get_json()


@pytest.fixture
def trial(client: FlaskClient, build: dict) -> dict:
    """A quick look that starts at the demo's noon, two inside channels and a control."""
    body = {
        "build_id": build["id"],
        "name": "Noon look",
        "protocol": "quick-look",
        "channels": [
            {"name": "inside-air", "title": "air inside", "node": "inside-air"},
            {"name": "tray", "title": "tray", "node": "tray"},
            {"name": "control", "title": "tin", "node": "outside", "is_control": True},
        ],
    }
    answer = client.post("/api/trials", json=body)
    assert answer.status_code == 201, answer.text
    return answer.get_json()
