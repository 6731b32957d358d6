"""The proof: a kind that lives in one folder of the tests passes all that every kind must do.

It runs in a process of its own, so that the registry of the other tests holds the product's kinds alone.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
from pathlib import Path

HERE = Path(__file__).parent


def test_a_black_stone_passes_from_its_one_folder():
    env = {**os.environ, "DRYLAMP_TEST_KINDS": str(HERE / "toy")}
    command = [
        sys.executable,
        "-m",
        "pytest",
        str(HERE / "test_contract.py"),
        "-k",
        "stone",
        "-p",
        "no:cacheprovider",
    ]
    done = subprocess.run(command, capture_output=True, text=True, check=False, env=env, cwd=HERE.parent.parent)
    assert done.returncode == 0, done.stdout[-3000:]
    assert int(re.search(r"(\d+) passed", done.stdout).group(1)) >= 20


def test_the_guide_counts_its_lines():
    """docs/adding-a-kind.md says how many lines it took."""
    count = sum(
        sum(1 for line in path.read_text(encoding="utf-8").splitlines() if line.strip())
        for path in (HERE / "toy" / "stone").iterdir()
        if path.suffix in (".py", ".json")
    )
    guide = (HERE.parent.parent / "docs" / "adding-a-kind.md").read_text(encoding="utf-8")
    assert f"{count} lines" in guide
