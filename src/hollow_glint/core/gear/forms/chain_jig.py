"""A jig with a hanging chain: the jig, and beads evenly down the chain."""

from __future__ import annotations

from ..form import Form, Highlights, Sizes, points, sphere_strength

BEAD_M = 0.002  # one bead of a hanging chain
BEADS = 4


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    """The jig and the chain's beads."""
    bead = sphere_strength(BEAD_M, f, c, "brass")
    beads = [(lure.spacing_m * (k + 1) / BEADS, bead) for k in range(BEADS)]
    return points((0.0, sphere_strength(lure.diameter_m, f, c, lure.material)), *beads)


FORM = Form("chain jig", "Jig with a hanging chain", 2, answers, spacing_m=(0.02, 0.12), spacing_words="Chain")
