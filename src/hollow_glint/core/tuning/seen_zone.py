"""The seen zone and the dead zone: how far off the axis a target shows, and where the bottom hides it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..acoustics import beam
from ..acoustics.targets import fish_target_strength
from ..checks import Floats
from ..hole.scene import Scene
from ..sonar.transmission import Transmission


def _nothing_hidden(range_m: Floats) -> Floats:
    return np.zeros_like(range_m)


def seen_radius(
    t: Transmission,
    target_strength_db: float,
    first_colour_db: float,
    depth_m: Floats,
    hidden_db: Callable[[Floats], Floats] = _nothing_hidden,
) -> Floats:
    """How far off the axis [m] a target is seen, at each of `depth_m` [m below the surface], same shape; 0 for not.

    Inside the main lobe, by the target's mean echo, less `hidden_db` of its range (time-varied gain and blanking).
    More gain widens it: a nominal cone is only one such lobe.
    """
    below = np.maximum(depth_m - t.face_depth_m, 0.0)
    radius: Floats = np.zeros_like(below)
    # The slant adds to the loss as the target moves off; thrice round settles it to millimetres.
    for _ in range(3):
        r = np.maximum(np.hypot(below, radius), 0.05)
        on_axis = t.source_level_db + target_strength_db - 40.0 * np.log10(r) - 2.0 * t.absorption_db_m * r
        on_axis = on_axis + 10.0 * np.log10(np.interp(r, t.bin_range_m, t.through)) - hidden_db(below)
        spare = on_axis - first_colour_db
        angle = beam.off_axis_at_level(-np.clip(spare, 0.0, 400.0) / 2.0, t.ka)
        radius = np.where(spare > 0.0, below * np.tan(angle), 0.0)
    return radius


def fish_seen_radius(
    t: Transmission,
    length_m: float,
    first_colour_db: float,
    depth_m: Floats,
    hidden_db: Callable[[Floats], Floats] = _nothing_hidden,
) -> Floats:
    """How far off the axis [m] a fish of `length_m` [m] is seen at each of `depth_m` [m], same shape. Love 1971."""
    strength = float(fish_target_strength(length_m, t.frequency_hz))
    return seen_radius(t, strength, first_colour_db, depth_m, hidden_db)


def dead_zone_top(scene: Scene, resolution_m: float, offset_m: Floats) -> Floats:
    """Depth [m below the surface] below which a target `offset_m` aside is hidden in the bottom echo; same shape.

    Its echo must be over, one pulse length after it began, before the first bottom arrival. Source: the geometry of
    Ona and Mitson 1996, ICES J. Mar. Sci. 53, 677.
    """
    reach = max(scene.bottom_range_m * float(np.cos(np.radians(scene.slope_deg))) - resolution_m, 0.0)
    return scene.face_depth_m + np.sqrt(np.maximum(reach**2 - np.asarray(offset_m, dtype=np.float64) ** 2, 0.0))
