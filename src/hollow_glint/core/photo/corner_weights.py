"""What speaks for a four-sided figure in a photo being the picture, and against it: for each measure a weight of itself
and one of its square, as logarithms of odds.

Printed by `python -m benchmarks.photo_corners 5000 300`: learned from made-up photos, none of them among those that are
kept for judging. Each fifth judged by the others: 71 % right within 1 % of the width (76 % had the right one among
their figures); 55 % called sure, of those 93 % right.
"""

from __future__ import annotations

from typing import Final

Weights = dict[str, tuple[float, float]]

# Of a figure from afar, in the photo made small: see `corners._from_afar`.
FAR_WEIGHTS: Final[Weights] = {
    "goes on": (0.43, 15.00),
    "goes on faintly": (1.36, -8.28),
    "one goes on": (-7.27, -3.55),
    "steeper than beyond": (2.19, -0.05),
    "edge": (6.57, 3.56),
    "least edge": (-23.78, 25.32),
    "faint edge": (33.89, 6.25),
    "least faint edge": (8.39, -12.93),
    "ground varies": (-40.57, 11.91),
    "within varies": (1.52, -1.57),
    "large": (92.07, -71.78),
    "ground of a side": (0.44, 0.06),
    "within of a side": (-0.22, 2.27),
    "in and out": (-4.68, -1.04),
    "least in and out": (-0.98, 2.30),
    "ground along": (49.47, -54.97),
    "most ground along": (-1.43, -7.11),
    "ground outwards": (41.37, -37.47),
    "most ground outwards": (-10.28, 4.66),
    "layers": (30.65, -28.65),
    "least layers": (39.02, -58.90),
    "inwards": (19.17, -15.84),
    "layers inwards": (-24.52, 16.28),
    "left and right": (-4.68, 0.22),
}

# Of one fitted to its edges: see `corners._from_near`.
NEAR_WEIGHTS: Final[Weights] = {
    "ground of a side": (-4.56, -1.30),
    "ground along": (9.69, -10.60),
    "ground outwards": (1.82, 3.12),
    "plainly goes on": (-7.14, -25.69),
    "one goes on": (-1.35, -1.42),
    "goes on steeply": (2.06, -2.70),
    "least edge": (-2.26, 4.11),
    "least plain edge": (-1.88, 2.37),
    "layers": (7.99, 0.48),
    "least layers": (5.61, -18.02),
    "along top and foot": (-7.48, -7.41),
    "inwards from top and foot": (6.57, -1.42),
    "from afar": (0.54, 0.01),
    "rim": (0.32, 0.32),
}

# Of the one that was chosen, for being right; the last is the same for all.
SURE_WEIGHTS: Final[Weights] = {
    "ground of a side": (-5.21, 2.06),
    "ground along": (3.66, -4.85),
    "ground outwards": (0.46, 1.88),
    "plainly goes on": (-2.05, -2.19),
    "one goes on": (0.44, -1.87),
    "goes on steeply": (4.34, 1.60),
    "least edge": (0.16, 1.37),
    "least plain edge": (-1.54, 0.67),
    "layers": (2.34, 4.47),
    "least layers": (-0.63, -0.70),
    "along top and foot": (-1.09, -2.55),
    "inwards from top and foot": (3.44, -2.64),
    "from afar": (0.54, -0.03),
    "rim": (1.48, 1.48),
    "of them all": (0.69, -0.12),
    "": (-1.25, -1.25),
}
