"""Two jigs on one line: a second ball above the first."""

from __future__ import annotations

from ..form import Form, Highlights, Sizes, points, sphere_strength


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    """Both jigs, the lower one where the lure is."""
    jig = sphere_strength(lure.diameter_m, f, c, lure.material)
    return points((0.0, jig), (-lure.spacing_m, jig))


FORM = Form("two jigs", "Two jigs on one line", 3, answers, spacing_m=(0.01, 1.0), spacing_words="Gap", parts=True)
