"""Rules of the house that no linter knows."""

import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

from drylamp import COMPILED, _compiled_digest

ROOT = Path(__file__).parent.parent
CORE = ROOT / "src" / "drylamp" / "core"
SPECS = {
    house: [spec.parent.name for spec in sorted((CORE / house).glob("*/spec.py"))] for house in ("builds", "loads")
}


def test_every_file_with_compiled_code_names_the_cache():
    """A file left out of the digest would keep running in its old form after a change."""
    decorated = {
        str(path.relative_to(CORE).with_suffix(""))
        for path in CORE.rglob("*.py")
        if re.search(r"^@(compiled|inlined|woven)$", path.read_text(encoding="utf-8"), re.MULTILINE)
    }
    assert decorated | {"compiled", "heat/cells"} == set(COMPILED)
    assert re.fullmatch(r"[0-9a-f]{12}", _compiled_digest())


def test_core_reads_no_clock_and_no_files_of_its_own():
    for path in CORE.rglob("*.py"):
        text = path.read_text(encoding="utf-8")
        assert not re.search(r"\.now\(|\.today\(|time\.time\(|(?<![\w.])open\(|\bPath\(", text), path.name


def test_help_and_simple_sums_stay_light():
    """The heavy libraries are not imported for --help."""
    code = "import sys; from drylamp.cli import main; print(json.dumps([m for m in ('pvlib', 'numba', 'pandas') if m in sys.modules]))"
    done = subprocess.run([sys.executable, "-c", f"import json; {code}"], capture_output=True, text=True, check=True)
    assert json.loads(done.stdout) == []


def test_no_writable_cache_is_no_reason_to_fail(tmp_path):
    """With the home folder gone the compiled code still runs from its own cache folder."""
    env = {**os.environ, "HOME": str(tmp_path), "XDG_CACHE_HOME": str(tmp_path / "cache")}
    env.pop("NUMBA_CACHE_DIR", None)
    command = [sys.executable, "-m", "drylamp.cli", "sum", "boil", "elevation_m=0"]
    done = subprocess.run(command, capture_output=True, text=True, check=True, env=env)
    assert json.loads(done.stdout)["result"]["boiling_c"] == pytest.approx(99.97, abs=0.01)


def test_front_end_asks_no_other_host():
    for path in (ROOT / "frontend" / "src").rglob("*.ts*"):
        found = re.findall(r"https?://[^\s\"'`)]+", path.read_text(encoding="utf-8"))
        assert [url for url in found if "w3.org" not in url] == [], path.name


def test_specs_import_nothing_compiled():
    """What describes a build or a load can be read without the machinery that computes it."""
    names = [f"drylamp.core.{house}.{room}.spec" for house, rooms in SPECS.items() for room in rooms]
    code = (
        f"import sys, {', '.join(names)}; print([m for m in ('numba', 'pvlib', 'pandas', 'scipy') if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"
