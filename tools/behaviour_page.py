"""Write docs/behaviour.md from the tables of the fish model: python -m tools.behaviour_page."""

from __future__ import annotations

from pathlib import Path

from hollow_glint.core.fish.traits import page

if __name__ == "__main__":
    (Path(__file__).parents[1] / "docs" / "behaviour.md").write_text(page())
