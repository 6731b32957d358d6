"""One file to install: the front end inside, no Node, no checkout."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import sysconfig
import urllib.request
import zipfile
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The wheel, made as ``make wheel`` makes it, from a copy of the tree so that nothing is left beside it."""
    place = tmp_path_factory.mktemp("wheel")
    tree = place / "tree"
    tree.mkdir()
    files = subprocess.run(
        ["git", "ls-files", "src", "pyproject.toml", "README.md"], cwd=ROOT, capture_output=True, text=True, check=True
    )
    static = [str(path.relative_to(ROOT)) for path in (ROOT / "src/drylamp/web/static").rglob("*") if path.is_file()]
    for name in [*files.stdout.split(), *static]:
        if (ROOT / name).is_file():
            (tree / name).parent.mkdir(parents=True, exist_ok=True)
            (tree / name).write_bytes((ROOT / name).read_bytes())
    command = ["-m", "pip", "wheel", "-q", "--disable-pip-version-check", "--no-deps", "--no-index", "--no-build-isolation", "-w", str(place), str(tree)]  # fmt: skip
    subprocess.run([sys.executable, *command], check=True, capture_output=True)
    return next(place.glob("drylamp-*.whl"))


def test_the_wheel_holds_the_page_its_tables_and_its_schema(wheel: Path):
    with zipfile.ZipFile(wheel) as opened:
        names = opened.namelist()
    assert "drylamp/web/static/index.html" in names
    for pattern in (r"drylamp/web/static/assets/.*\.js$", r"drylamp/web/static/assets/.*\.woff2$", r"drylamp/core/tables/.*\.csv$", r"drylamp/store/schema/001_.*\.sql$"):  # fmt: skip
        assert any(re.match(pattern, name) for name in names), pattern
    assert not [name for name in names if name.startswith(("tests/", "frontend/")) or "node_modules" in name]


def test_it_starts_in_a_clean_environment_without_node(wheel: Path, tmp_path: Path):
    """Dependencies are lent by this environment, for tests reach no registry; Dry Lamp itself is the wheel's alone."""
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(tmp_path / "clean")], check=True)
    python = tmp_path / "clean" / "bin" / "python"
    site = subprocess.run([python, "-c", "import sysconfig; print(sysconfig.get_path('purelib'))"], capture_output=True, text=True, check=True).stdout.strip()  # fmt: skip
    subprocess.run([sys.executable, "-m", "pip", "install", "-q", "--disable-pip-version-check", "--no-deps", "--no-index", "--target", site, str(wheel)], check=True, capture_output=True)  # fmt: skip
    Path(site, "lent.pth").write_text(sysconfig.get_path("purelib") + "\n")
    clean = {
        "PATH": "/usr/bin:/bin",
        "HOME": str(tmp_path),
        "PYTHONUNBUFFERED": "1",
        **{k: v for k, v in os.environ.items() if k.startswith("OPENBLAS")},
    }
    where = subprocess.run([python, "-c", "import drylamp; print(drylamp.__file__)"], capture_output=True, text=True, env=clean, cwd=tmp_path, check=True)  # fmt: skip
    assert where.stdout.startswith(site)
    server = subprocess.Popen([python, "-m", "drylamp.cli", "serve", "--port", "0", "--data", str(tmp_path / "yard")], stdout=subprocess.PIPE, text=True, env=clean, cwd=tmp_path)  # fmt: skip
    try:
        url = re.search(r"http://127\.0\.0\.1:\d+", server.stdout.readline()).group(0)
        page = urllib.request.urlopen(url, timeout=120).read().decode()
        script = re.search(r'src="(/assets/[^"]+\.js)"', page).group(1)
        assert urllib.request.urlopen(url + script, timeout=120).status == 200
        assert urllib.request.urlopen(f"{url}/api/sites", timeout=300).read() == b"[]"
    finally:
        server.terminate()
        server.wait(60)
        server.stdout.close()
