"""What is typed wrong at the command line: one line, exit 2, nothing half done."""

from __future__ import annotations

import json
import os
import subprocess
import sys

import pytest
from click.testing import CliRunner

from drylamp.cli import main
from tests.test_cli import EXAMPLE, refused


@pytest.mark.parametrize(("words", "says"), [
    (("serve", "--port", "99999"), "'--port': 99999 is not in the range"), (("serve", "--port", "-1"), "is not in the range"), (("serve", "--port", "eighty"), "is not a valid integer"),
    (("nothing",), "No such command"), (("run",), "Missing argument"), (("run", "/no/such/case.json"), "cannot be read"), (("run", "/tmp"), "cannot be read"),
    (("serve", "--weather", "http://[::1"), "is no http address"), (("serve", "--weather", "http://127.0.0.1:99999"), "is no http address"), (("serve", "--weather", "http://192.0.2.1:80"), "is another machine"),
    (("serve", "--weather", "nonsense"), "is no http address"), (("serve", "--data", "/dev/null/yard"), "cannot be written"), (("demo", "--data", "/dev/null/yard"), "cannot be written"),
    (("stand-in", "logger", "--url", "zz", "--trial", "1"), "is no http address"), (("stand-in", "weather", "--url", "http://127.0.0.1:x"), "is no http address"),
    (("stand-in", "logger", "--url", "http://127.0.0.1:1", "--trial", "1"), "cannot be reached"), (("stand-in", "logger", "--trial", "1", "--every", "0"), "is not in the range"),
    (("sum", "--batch", "/no/such/file"), "cannot be read"), (("schema", "moon"), "is not one of"),
])  # fmt: skip
def test_one_line_and_exit_2(words: tuple[str, ...], says: str):
    assert says in refused(*words)


@pytest.mark.parametrize("target", ["/no/such/folder/out.csv", "/tmp"])
def test_a_csv_into_nowhere_is_said_before_the_run(target: str, monkeypatch):
    monkeypatch.setattr("drylamp.core.engine.run_case", lambda *_: pytest.fail("it ran"))
    assert "--csv" in refused("run", str(EXAMPLE), "--csv", target)


def test_a_full_disk_leaves_no_half_file(tmp_path):
    assert "cannot be written" in refused("run", str(EXAMPLE), "--csv", "/dev/full")
    out = tmp_path / "out.csv"
    out.write_text("what was there before")
    out.chmod(0o444)
    if os.geteuid() != 0:
        assert "cannot be written" in refused("run", str(EXAMPLE), "--csv", str(out))
        assert out.read_text() == "what was there before"
    assert not list(tmp_path.glob("*.part"))


def test_a_case_from_standard_input():
    found = CliRunner().invoke(main, ["run", "-"], input=EXAMPLE.read_bytes())
    assert found.exit_code == 0, found.output
    assert json.loads(found.stdout)["energy_closure"] < 1e-3


@pytest.mark.parametrize(("given", "says"), [
    (b"", "standard input: nothing was sent"), (b"{", "standard input: not JSON"), (b"[]", "one JSON object"), (b'{"format": 99}', "update Dry Lamp"), (b"[" * 9999, "nested deeper"),
])  # fmt: skip
def test_standard_input_that_is_no_case(given: bytes, says: str):
    found = CliRunner().invoke(main, ["run", "-"], input=given)
    assert found.exit_code == 2
    assert says in found.stderr
    assert found.stderr.count("\n") == 1


def test_a_reader_that_goes_away_is_no_fault():
    done = subprocess.run(
        f"{sys.executable} -m drylamp.cli sum --list | head -1",
        shell=True, capture_output=True, text=True, check=False, timeout=120,
    )  # fmt: skip
    assert done.stderr == ""
    assert done.stdout.count("\n") == 1


def test_a_full_output_is_said():
    done = subprocess.run(
        f"{sys.executable} -m drylamp.cli schema case > /dev/full",
        shell=True, capture_output=True, text=True, check=False, timeout=120,
    )  # fmt: skip
    assert (done.returncode, done.stderr.count("\n")) == (2, 1)
    assert "No space left" in done.stderr


def test_help_is_no_refusal():
    found = CliRunner().invoke(main, [])
    assert found.exit_code in (0, 2)
    assert "serve" in found.output
