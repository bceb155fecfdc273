"""Where the picture stands in a photo, found beforehand: four straight edges with one ground all about them and many
colours within. A guess to be looked at, with how sure it is.

Lines by the Hough transform in Duda and Hart's form (1972), each edge voting along its own direction alone.
"""

from __future__ import annotations

from itertools import combinations
from typing import TYPE_CHECKING, Final

import numpy as np

from ..checks import Floats, InputError
from ..lazily import Lazily
from .colour import LIGHT_OF_BYTE, lab_of
from .perspective import LEAST_SIDE, Pixels

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

SMALL_PX: Final = 480  # the photo's longer side while edges are looked for
MOST_TURNED_DEG: Final = 25  # a phone is held so straight
LINES: Final = 14  # that are tried each way
NEAR_PX: Final = 6.0  # two lines so near are one
EDGE: Final = 4.0  # from a pixel to the next (CIE 1976): less is no edge
ALONG: Final = 48  # places looked at along a side
OFF_PX: Final = 3.0  # how far in and out of a side its ground is looked at
LEAST_SHARE: Final = 0.04  # of the photo that a picture fills
MOST_OFF: Final = 40.0  # (L*, a* and b* summed) two grounds cannot be further apart than this counts
# What speaks for a figure and against it: learned on made-up photos (seeds from 5000 up), ours.
WEIGHTS: Final = {
    "goes on": 4.49, "goes on faintly": -2.27, "one goes on": -2.96, "steeper than beyond": 8.34, "edge": 1.57,
    "least edge": 5.08, "faint edge": 1.34, "least faint edge": 3.82, "ground varies": -3.48, "within varies": 2.9,
    "large": 2.58, "ground of a side": -5.36, "within of a side": 1.5, "in and out": 4.03,
}  # fmt: skip
WIDE_DEG: Final = 8
INNER: Final = 0.55  # of the steepest change


def find_corners(pixels: Pixels) -> Floats:
    """The corners of the picture in a photo [px], from the top left clockwise, shape (4, 2): a guess, never sure.

    A line across the whole picture (a bottom, surface clutter) or the edge of the screen about it may be taken for the
    picture's own edge; docs/photo.md says how often. Raises ValueError when there is nothing with four straight edges.
    """
    high, wide = pixels.shape[:2]
    coarser = max(int(np.ceil(max(high, wide) / SMALL_PX)), 1)
    lab = _small_lab(pixels, coarser)
    down, across = (ndimage.sobel(lab, axis=axis, mode="nearest") / 8.0 for axis in (0, 1))
    strength = np.sqrt((down**2 + across**2).sum(axis=-1))
    upright = _lines(lab, strength, down, across, upright=True)
    level = _lines(lab, strength, down, across, upright=False)
    quads = _quads(upright, level, lab.shape[1], lab.shape[0])
    if not len(quads):
        raise InputError("the photo shows no picture with four straight edges: put the corners there by hand")
    score = _scores(quads, lab, strength)
    return _refined(pixels, quads[int(score.argmax())] * coarser)


def _small_lab(pixels: Pixels, coarser: int) -> Floats:
    high, wide = (side // coarser for side in pixels.shape[:2])
    light = np.zeros((high, wide, 3), dtype=np.float32)
    for i in range(coarser):
        for j in range(coarser):
            light += LIGHT_OF_BYTE[pixels[i : high * coarser : coarser, j : wide * coarser : coarser]]
    lab: Floats = ndimage.gaussian_filter(lab_of(light / coarser**2), (0.8, 0.8, 0.0))
    return lab


def _lines(lab: Floats, strength: Floats, down: Floats, across: Floats, upright: bool) -> Floats:
    """The strongest lines as (angle of the normal [rad], distance from the photo's corner [px]), shape (lines, 2)."""
    # The direction of the edge in the channel in which it is plainest.
    plainest = (down**2 + across**2).argmax(axis=-1)[..., None]
    gy = np.take_along_axis(down, plainest, axis=-1)[..., 0]
    gx = np.take_along_axis(across, plainest, axis=-1)[..., 0]
    main, other = (gx, gy) if upright else (gy, gx)
    turned = np.degrees(np.arctan2(other * np.sign(main), np.abs(main)))
    rows, columns = np.nonzero((strength > EDGE) & (np.abs(turned) < MOST_TURNED_DEG + WIDE_DEG))
    votes = np.minimum(strength[rows, columns], 25.0) ** 0.5
    own = turned[rows, columns]
    angles = np.arange(-2 * MOST_TURNED_DEG, 2 * MOST_TURNED_DEG + 1) / 2.0
    reach = int(np.hypot(*lab.shape[:2])) + 2
    table = np.zeros((angles.size, 2 * reach), dtype=np.float64)
    for k, angle in enumerate(angles):
        near = np.abs(own - angle) < WIDE_DEG
        cos, sin = np.cos(np.radians(angle)), np.sin(np.radians(angle))
        along, over = (columns, rows) if upright else (rows, columns)
        distance = along[near] * cos + over[near] * sin
        table[k] = np.bincount((distance + reach + 0.5).astype(np.intp), votes[near], 2 * reach)[: 2 * reach]
    table = ndimage.gaussian_filter(table, (0.5, 0.7))
    found: list[tuple[float, float]] = []
    middle = (lab.shape[0] if upright else lab.shape[1]) / 2.0
    for place in np.argsort(-table, axis=None)[:6000]:
        k, column = np.unravel_index(place, table.shape)
        angle, distance = float(np.radians(angles[k])), float(column - reach)
        at = (distance - middle * np.sin(angle)) / np.cos(angle)
        if all(abs(at - (d - middle * np.sin(a)) / np.cos(a)) > NEAR_PX for a, d in found):
            found.append((angle, distance))
            if len(found) == LINES:
                break
    return np.array(found).reshape(-1, 2)


def _quads(upright: Floats, level: Floats, wide: int, high: int) -> Floats:
    """Every four-sided figure of two upright and two level lines that could be a picture, shape (quads, 4, 2)."""
    found = []
    for one, other in combinations(upright, 2):
        left, right = sorted((one, other), key=lambda line: _at_middle(line, high))
        for a, b in combinations(level, 2):
            top, foot = sorted((a, b), key=lambda line: _at_middle(line, wide))
            corners = [_crossing(left, top), _crossing(right, top), _crossing(right, foot), _crossing(left, foot)]
            found.append(corners)
    quads = np.array(found).reshape(-1, 4, 2)
    sides = np.roll(quads, -1, axis=1) - quads
    turns = sides[..., 0] * np.roll(sides[..., 1], -1, axis=1) - sides[..., 1] * np.roll(sides[..., 0], -1, axis=1)
    large = _areas(quads) > LEAST_SHARE * wide * high
    inside = ((quads > -2.0) & (quads < [wide + 2.0, high + 2.0])).all(axis=(1, 2))
    kept: Floats = quads[inside & large & (turns > 0.0).all(axis=1) & (np.hypot(*sides.T).T.min(axis=1) > LEAST_SIDE)]
    return kept


def _at_middle(line: Floats, size: int) -> float:
    return float((line[1] - size / 2.0 * np.sin(line[0])) / np.cos(line[0]))


def _crossing(upright: Floats, level: Floats) -> tuple[float, float]:
    """Where x cos a + y sin a = d and y cos b + x sin b = e meet."""
    (a, d), (b, e) = upright, level
    x, y = np.linalg.solve([[np.cos(a), np.sin(a)], [np.sin(b), np.cos(b)]], [d, e])
    return float(x), float(y)


def _scores(quads: Floats, lab: Floats, strength: Floats) -> Floats:
    """How much each figure looks like a picture on a screen, as a logarithm of odds up to a constant: WEIGHTS times
    what is measured of it."""
    ahead = np.roll(quads, -1, axis=1) - quads
    outwards = np.stack([ahead[..., 1], -ahead[..., 0]], axis=-1) / np.hypot(ahead[..., 0], ahead[..., 1])[..., None]

    def along(share: Floats, off_px: float = 0.0) -> Floats:
        return quads[:, :, None] + share[None, None, :, None] * ahead[:, :, None] + off_px * outwards[:, :, None]

    share = (np.arange(ALONG) + 0.5) / ALONG
    beyond = np.concatenate([np.linspace(-0.1, -0.02, 6), np.linspace(1.02, 1.1, 6)])
    widest = ndimage.maximum_filter(strength, 3)
    edge, on = (_looked_up(widest, along(one)) for one in (share, beyond))
    outside, within = _looked_up(lab, along(share, OFF_PX)), _looked_up(lab, along(share, -OFF_PX))
    ground, usual = (np.median(one, axis=(1, 2), keepdims=True) for one in (outside, within))

    def off(one: Floats, other: Floats) -> Floats:
        return np.asarray(np.minimum(np.abs(one - other).sum(axis=-1), MOST_OFF) / MOST_OFF)

    measured = {
        "goes on": (on > EDGE).mean(axis=(1, 2)), "goes on faintly": (on > EDGE / 2).mean(axis=(1, 2)),
        "one goes on": (on > EDGE).mean(axis=2).max(axis=1),
        "steeper than beyond": (edge - on.mean(axis=2, keepdims=True)).mean(axis=(1, 2)) / 10.0,
        "edge": (edge > EDGE).mean(axis=(1, 2)), "least edge": (edge > EDGE).mean(axis=2).min(axis=1),
        "faint edge": (edge > EDGE / 2).mean(axis=(1, 2)),
        "least faint edge": (edge > EDGE / 2).mean(axis=2).min(axis=1),
        "ground varies": off(outside, ground).mean(axis=(1, 2)), "within varies": off(within, usual).mean(axis=(1, 2)),
        "large": np.sqrt(_areas(quads) / (lab.shape[0] * lab.shape[1])),
        "ground of a side": off(np.median(outside, axis=2), ground[:, 0]).max(axis=1),
        "within of a side": off(np.median(within, axis=2), usual[:, 0]).max(axis=1),
        "in and out": off(within, outside).mean(axis=(1, 2)),
    }  # fmt: skip
    score: Floats = sum((WEIGHTS[name] * value for name, value in measured.items()), np.zeros(len(quads)))
    return score


def _areas(quads: Floats) -> Floats:
    x, y = quads[..., 0], quads[..., 1]
    twice: Floats = (x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1)).sum(axis=1)
    return np.abs(twice) / 2.0


def _looked_up(field: Floats, at: Floats) -> Floats:
    row = np.clip(at[..., 1].astype(np.intp), 0, field.shape[0] - 1)
    column = np.clip(at[..., 0].astype(np.intp), 0, field.shape[1] - 1)
    found: Floats = field[row, column]
    return found


def _refined(pixels: Pixels, corners: Floats) -> Floats:
    """Corners where the edges near a guess truly stand: across each side the place of the steepest change, and through
    those a line; twice, from afar and from near."""
    high, wide = pixels.shape[:2]
    for reach in (0.012, 0.006):
        lines = []
        for k in range(4):
            start, end = corners[k], corners[(k + 1) % 4]
            lines.append(_edge_near(pixels, start, end, reach * wide))
        found = np.array([_meet(lines[k - 1], lines[k]) for k in range(4)])
        if np.abs(found - corners).max() > 3.0 * reach * wide or not np.isfinite(found).all():
            return corners
        corners = found
    return np.clip(corners, 0.0, [wide, high])


def _edge_near(pixels: Pixels, start: Floats, end: Floats, reach: float) -> tuple[Floats, Floats]:
    """Two places on the line along the steepest change near the one from `start` to `end`."""
    share = np.linspace(0.04, 0.96, 90)
    ahead = end - start
    normal = np.array([ahead[1], -ahead[0]]) / np.hypot(*ahead)
    steps = np.arange(-np.ceil(reach) - 2, np.ceil(reach) + 3)
    at = start + share[:, None, None] * ahead + steps[None, :, None] * normal
    row = np.clip(at[..., 1].astype(np.intp), 0, pixels.shape[0] - 1)
    column = np.clip(at[..., 0].astype(np.intp), 0, pixels.shape[1] - 1)
    lab = ndimage.gaussian_filter1d(lab_of(LIGHT_OF_BYTE[pixels[row, column]]), 1.0, axis=1)
    change = np.sqrt((np.gradient(lab, axis=1) ** 2).sum(axis=-1))[:, 2:-2]
    # One line through all: where along the normal the most places change, then each place near to that.
    profile = np.minimum(change, 12.0).sum(axis=0)
    # A line drawn about a picture has two edges: the picture's own is the inner one.
    peaks = np.flatnonzero((profile >= INNER * profile.max()) & (profile == ndimage.maximum_filter1d(profile, 3)))
    usual = int(peaks[0])
    near = np.abs(np.arange(change.shape[1]) - usual) <= max(reach / 3.0, 2.0)
    weight = np.where(near, np.maximum(change - 1.0, 0.0) ** 2, 0.0)
    total = weight.sum(axis=1)
    good = total > 1.0
    if good.sum() < 12:
        return start, end
    offset = (weight @ steps[2:-2])[good] / total[good]
    slope, middle = np.polyfit(share[good], offset, 1, w=np.minimum(total[good], 50.0))
    for _ in range(3):
        off = np.abs(offset - slope * share[good] - middle)
        kept = off <= max(2.0 * float(np.median(off)), 0.7)
        slope, middle = np.polyfit(share[good][kept], offset[kept], 1)
    return start + middle * normal, end + (slope + middle) * normal


def _meet(one: tuple[Floats, Floats], other: tuple[Floats, Floats]) -> Floats:
    """Where two lines, each through two places, meet."""
    (a, b), (c, d) = one, other
    matrix = np.stack([b - a, c - d], axis=1)
    if abs(float(np.linalg.det(matrix))) < 1e-6:
        return np.full(2, np.nan)
    along = np.linalg.solve(matrix, c - a)
    met: Floats = a + along[0] * (b - a)
    return met
