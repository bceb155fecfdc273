"""The house as CONTRIBUTING draws it: every room is there, none is forgotten, and every room's tests have theirs."""

from __future__ import annotations

from pathlib import Path

ROOT = Path(__file__).parents[2]
CORE = ROOT / "src/hollow_glint/core"
HOUSE = (ROOT / "CONTRIBUTING.md").read_text("utf-8").split("## The house")[1].split("\n## ")[0]
DRAWN = "\n".join(line for line in HOUSE.splitlines() if line.startswith("    "))
ROOMS = sorted(one.name for one in CORE.iterdir() if (one / "__init__.py").exists())


def test_every_room_is_in_the_drawing_and_the_drawing_is_small():
    assert len(ROOMS) == 17
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
