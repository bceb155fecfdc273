"""What the still parts send back: the hole's walls, the bottom's rough face and its mirror image, the second echo."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from ..acoustics import beam, bottom
from ..checks import Floats
from ..hole.scene import Scene
from .pulse import pulse_envelope

ICE_REFLECTION = 0.42  # water to ice at normal incidence, from handbook impedances; value from memory
WALL_SCATTERING = 0.03  # share of sound on a rough ice wall that comes straight back. Common practice, no source
AZIMUTHS = np.cos(np.linspace(0.0, np.pi, 25))[:, None]


def spread_back(source_db: float, alpha: float, r: Floats) -> Floats:
    """Intensity back from a 0 dB target at range `r` on axis: SL - 40 log r - 2 alpha r."""
    intensity: Floats = 10.0 ** (source_db / 10.0 - 0.2 * alpha * r) / np.maximum(r, 0.05) ** 4
    return intensity


def scene_bottom(scene: Scene) -> bottom.BottomKind:
    """The bottom of `scene`, with its own roughness where that is given."""
    kind = bottom.bottom_kind(scene.bottom_kind)
    return kind if scene.roughness_m is None else replace(kind, roughness_m=scene.roughness_m)


def two_way_at(pattern: Floats, cosine: Floats) -> Floats:
    """Two-way pattern at the angle of this cosine off the axis; behind the face there is only the floor."""
    sine = np.where(cosine > 0.0, np.sqrt(np.maximum(1.0 - cosine**2, 0.0)), 1.0)
    looked_up: Floats = pattern[(sine * (pattern.size - 1)).astype(np.intp)]
    return looked_up


def opening(scene: Scene, ka: float) -> tuple[Floats, Callable[[Floats], Floats]]:
    """The one-way pattern [dB] that leaves the hole over 4096 even sines, and the walls' echo share at each range.

    A face inside the ice looks out through the foot of the hole: what goes wider than that falls on the wall, is
    thrown about as in any small hard room, leaks out below and soaks into the ice, and comes back as clutter that dies
    away by Sabine's rule (mean free path 4 V / S). Source: Sabine's decay, any room-acoustics text; the wall's
    reflection from handbook impedances.
    """
    sines = np.linspace(0.0, 1.0, 4096)
    pattern_db = np.asarray(beam.directivity(np.arcsin(sines), ka))
    deep, radius = scene.inside_ice_m, scene.hole_diameter_m / 2.0
    if deep <= 0.0:
        return pattern_db, np.zeros_like
    tangents = sines / np.sqrt(np.maximum(1.0 - sines**2, 1e-6))
    leaves = 1.0 / (1.0 + (tangents * deep / radius) ** 8)
    power = 10.0 ** (pattern_db / 10.0) * tangents  # d(solid angle) = 2 pi sin d(sin) / cos
    caught = float(np.sum(power * (1.0 - leaves)) / np.sum(power))
    wall = ice_walls(deep, radius, caught)

    return pattern_db + 10.0 * np.log10(np.maximum(leaves, 1e-6)), wall


def ice_walls(deep_m: float, radius_m: float, caught: float) -> Callable[[Floats], Floats]:
    """The walls' echo share at each range [m]: of a head `deep_m` up in a hole, the share `caught` of whose sound falls
    on them. Sabine's decay, as `opening` has it."""
    # Nepers of intensity for each metre of range.
    lost = (1.0 / deep_m + 2.0 * (1.0 - ICE_REFLECTION**2) / radius_m) / 2.0

    def wall(r: Floats) -> Floats:
        echo: Floats = caught**2 * WALL_SCATTERING / radius_m**2 * np.exp(-lost * r)
        return echo

    return wall


def bottom_density(
    scene: Scene,
    kind: bottom.BottomKind,
    source_db: float,
    alpha: float,
    pattern: Floats,
    wave_number: float,
    r: Floats,
) -> Floats:
    """Diffuse bottom echo per metre of range: rings of rough interface, each with its tail from inside the sediment.

    The rings lie round the foot of the perpendicular, which a slope moves aside; the beam looks at them off its axis
    by tilt and slope together, averaged round each ring.
    """
    height = scene.bottom_range_m * np.cos(np.radians(scene.slope_deg))
    bin_m = float(r[1] - r[0])
    if r[-1] <= height:
        return np.zeros_like(r)
    reached = r > height
    cosine = np.clip(height / r, -1.0, 1.0)
    angle = np.arccos(cosine)
    off = np.radians(scene.tilt_deg + scene.slope_deg)
    if off == 0.0:
        seen = two_way_at(pattern, cosine)
    else:
        seen = two_way_at(pattern, cosine * np.cos(off) + np.sin(angle) * np.sin(off) * AZIMUTHS).mean(axis=0)
    # The ring of flat bottom between r and r + dr has the area 2 pi r dr.
    ring = np.where(reached, spread_back(source_db, alpha, r) * seen * 2.0 * np.pi * r, 0.0)
    interface = ring * bottom.interface_scattering(kind, wave_number, angle)
    tail = np.convolve(ring, bottom.sediment_tail(kind, wave_number, np.arange(r.size) * bin_m))[: r.size] * bin_m
    return interface + tail


def second_echo_range(scene: Scene) -> float:
    """Range [m] at which the second echo stands: down, up to the underside of the ice, down, and up to the face."""
    return 2.0 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m


def mirror_images(  # noqa: PLR0913 - what the cast has worked out already
    scene: Scene,
    source_db: float,
    alpha: float,
    mirrored: float,
    ice: float,
    pattern: Floats,
    resolution: float,
    r: Floats,
    bed_through: float,
) -> Floats:
    """Coherent echoes: the bottom's mirror image, and the second echo by way of the underside of the ice.

    On a slope the mirror stands square to the bottom, so the beam sees it off its axis; the second image, mirrored
    twice, stands twice as far off.
    """
    slope = np.radians(scene.slope_deg)
    tilt = np.radians(scene.tilt_deg)
    total = np.zeros_like(r)
    for at, share, off in (
        (scene.bottom_range_m * float(np.cos(slope)), mirrored * bed_through, tilt + slope),
        (second_echo_range(scene), mirrored**2 * ice * bed_through**2, tilt + 2.0 * slope),
    ):
        path = 2.0 * at
        seen = float(two_way_at(pattern, np.array([np.cos(off)]))[0])
        intensity = share * seen * 10.0 ** (source_db / 10.0 - 0.1 * alpha * path) / path**2
        total += np.where(r >= at, intensity * pulse_envelope(np.maximum(r - at, 0.0) / resolution), 0.0)
    return total
