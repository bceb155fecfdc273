"""A small jig: one sphere, by Faran 1951."""

from __future__ import annotations

from ..form import Form, Highlights, Sizes, points, sphere_strength


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    """The ball; it looks the same from every side."""
    return points((0.0, sphere_strength(lure.diameter_m, f, c, lure.material)))


FORM = Form("jig", "Small jig", 0, answers)
