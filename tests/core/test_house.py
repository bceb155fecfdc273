"""The house as CONTRIBUTING draws it: every room is there, none is forgotten, and every room's tests have theirs."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
CORE = ROOT / "src/hollow_glint/core"
HOUSE = (ROOT / "CONTRIBUTING.md").read_text("utf-8").split("## The house")[1].split("\n## ")[0]
DRAWN = "\n".join(line for line in HOUSE.splitlines() if line.startswith("    "))
ROOMS = sorted(one.name for one in CORE.iterdir() if (one / "__init__.py").exists())


def test_every_room_is_in_the_drawing_and_the_drawing_is_small():
    assert len(ROOMS) == 21
    for room in ROOMS:
        assert room in DRAWN, room
    assert len(DRAWN.strip().splitlines()) <= 20


def test_every_room_has_its_tests():
    for room in ROOMS:
        assert list((ROOT / "tests/core" / room).glob("test_*.py")), room


def test_every_file_says_in_its_first_line_what_it_is_for():
    for file in sorted((ROOT / "src/hollow_glint").rglob("*.py")):
        first = file.read_text("utf-8").split("\n", 1)[0]
        assert first.startswith('"""') and len(first) > 20, file.relative_to(ROOT)


@pytest.mark.parametrize(("set_to", "threads"), [(None, 1), ("2", 2)])
def test_linear_algebra_runs_in_one_thread_unless_somebody_wants_it_otherwise(set_to, threads):
    """In several, small matrices are slower and the waiting threads take the cores from what else the program does."""
    asked = (
        "import hollow_glint, scipy.linalg, threadpoolctl\n"
        "print(*(one['num_threads'] for one in threadpoolctl.threadpool_info()))"
    )
    given = {name: value for name, value in os.environ.items() if not name.endswith("_NUM_THREADS")}
    if set_to:
        given["OPENBLAS_NUM_THREADS"] = set_to
    told = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True, env=given).stdout
    assert {int(one) for one in told.split()} == {min(threads, os.cpu_count() or 1)}


def test_what_is_brought_in_when_it_is_first_needed_is_not_there_at_the_start():
    """Whoever imports such a module at the top of a file takes it away from everybody: the program starts later."""
    late = {
        name for file in (ROOT / "src").rglob("*.py") for name in re.findall(r'Lazily\("([\w.]+)"\)', file.read_text())
    }
    assert {"scipy.special", "shapely", "gpxpy"} <= late
    asked = "import sys, hollow_glint.cli, hollow_glint.web.app; print(*sys.modules)"
    started = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True).stdout.split()
    assert sorted(late & set(started)) == []
