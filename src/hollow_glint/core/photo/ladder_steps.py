"""Which step of the ladder each cell shows, under whatever light fell on the screen.

What a camera sees of a step is its colour times what the shade lets through, plus what glare adds. Both change slowly
over a screen while steps change at once. So what no edge parts is one step, however the light runs over it; every other
cell is given to the nearest colour; and from all cells that are sure shade and glare are fitted about every place, in
turns, from wide to narrow. The camera's own exposure, white balance and curve come out as a colour of its own for each
step. A cell that no step explains is masked: numbers, a thumb.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from ..lazily import Lazily
from .colour import lab_of

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

LEAST_APART: Final = 4.0  # between two colours of a ladder (CIE 1976); nearer ones no photo tells apart
EXPOSURES: Final = tuple(2.0 ** (k / 6.0) for k in range(-12, 9))  # that are tried before anything is known
LEAST_FIRST: Final = 0.03  # share of the cells in a part that tells how the light runs
RUN_WIDTHS: Final = (0.02, 0.06, 0.15, 0.4)
SAMPLE: Final = 1500
CALM: Final = 6.0  # how far a cell may be from its neighbours' middle (CIE 1976, summed) and be taken as it is
MOST_SMOOTHED: Final = 1.2  # cells
SMOOTHED: Final = (1.0, 1.6, 2.4)  # cells
JOINED: Final = 3  # times that parts are joined to the largest
LARGE: Final = 0.12  # share of the cells in a part that holds together
ALIKE: Final = 8.0  # parts that go on where the light over another leads (CIE 1976) are the same step
NOT_DARK: Final = 0.35  # what it costs when the largest part is not dark water: it mostly is
PLAIN: Final = 0.03  # and an exposure of twice or half
GLARING: Final = 0.7  # and light added, as a share of white: shade is commoner than as much glare as that
FAR: Final = 20.0  # from here on (CIE 1976) a colour is as wrong as another
WIDTHS: Final = (0.5, 0.25, 0.12, 0.08, 0.06)  # of the picture, over which shade and glare are held to be even
MIXTURES: Final = (0.15, 0.35, 0.6, 0.8)
LEAST_SHADE, MOST_SHADE = 0.15, 4.0
LEAN: Final = 0.01  # how much colours must vary (light squared) to tell shade from glare
MOST_TINT: Final = 0.35  # how far glare may be from white, as a share of itself
COARSE: Final = 96  # places each way at which shade and glare are fitted

LEAST_PLAIN: Final = 0.002  # share of the cells that a part without an edge must have to be held for one step
FITS: Final = 6.0  # (CIE 1976) and
FITTING: Final = 0.1  # such a part is the step that this share of its cells is so near to, or none
SHARPEST_LIGHT: Final = 3.0  # from a cell to the next (CIE 1976): more is an edge

Levels = NDArray[np.uint8]
Whole = NDArray[np.intp]


@dataclass(frozen=True, eq=False)
class SeenSteps:
    """Levels, shape (rows, pings); how far off each cell's colour is from every step, and from what two steps give
    that a cell shows a part of each (CIE 1976); how much light glare adds and how much the shade leaves, same shape."""

    levels: Levels
    off: Floats
    glare: Floats
    shade: Floats


def apart(colours: Floats) -> float:
    """How far the two nearest of these colours are from each other (CIE 1976); light, shape (colours, 3)."""
    lab = lab_of(colours)
    far = np.sqrt(((lab[:, None] - lab[None]) ** 2).sum(axis=-1))
    return float(far[np.triu_indices(len(colours), 1)].min())


def check_ladder(colours: Floats) -> None:
    """Raise ValueError for a ladder whose colours cannot be told apart; the dark water's first, shape (colours, 3)."""
    if len(colours) < 3:
        raise InputError(f"colours has {len(colours) - 1} entries: a ladder of 2 to 32 steps is accepted")
    if apart(colours) < LEAST_APART:
        raise InputError(
            "colours: two of them, or one and the dark water, are so alike that no photo tells them apart: "
            "touch each step where it is plainest"
        )


def steps_seen(cells: Floats, colours: Floats) -> SeenSteps:
    """The step of each cell. `cells` light, shape (rows, pings, 3); `colours` light of dark water and of each step,
    weakest first, shape (steps + 1, 3)."""
    check_ladder(colours)
    cells = _calmed(cells)
    parts, calm = plain_parts(cells)
    seen, shade, glare = _first_light(cells, colours, parts, calm)
    for width in WIDTHS:
        even = _evened(cells, shade, glare)
        levels, off, next_off = _nearest(even, seen)
        sure = _sureness(off, next_off)
        _hold_whole(parts, even, seen, levels, sure)
        shade, glare = _light_fitted(cells, seen[levels], sure, width)
        seen = _own_colours(_evened(cells, shade, glare), levels, sure, seen)
    even = _evened(cells, shade, glare)
    levels, off, _ = _nearest(even, seen)
    return SeenSteps(levels.astype(np.uint8), _off_all(even, off, seen), glare.mean(axis=-1), shade)


def _calmed(cells: Floats) -> Floats:
    """The cells with moire and noise smoothed over their neighbours, by as much as they need: none of a calm photo."""
    noise = _noise(lab_of(cells))
    if noise < CALM:
        return cells
    sigma = min(0.4 + 0.05 * (noise - CALM), MOST_SMOOTHED)
    calm: Floats = ndimage.gaussian_filter(cells, (sigma, sigma, 0.0))
    return calm


def _first_light(
    cells: Floats, colours: Floats, parts: Whole, calm: NDArray[np.bool_]
) -> tuple[Floats, Floats, Floats]:
    """The ladder's colours as the camera exposed them, shade and glare, before any cell is given to a step.

    The largest part without an edge is one step, most likely dark water: what light does over it is seen there at once.
    Either that adds to the screen (glare) or takes from it (shade), under some exposure: what brings all other cells
    nearest to the ladder is held.
    """
    size = np.bincount(parts[calm], minlength=2)
    size[0] = 0
    largest = int(size.argmax())
    inside = parts == largest if largest and size[largest] >= LEAST_FIRST * parts.size else np.ones(parts.shape, bool)
    run = _over_a_part(cells, inside & calm)
    for _ in range(JOINED):
        grown = inside | _goes_on(cells, run, parts, calm)
        if (grown == inside).all():
            break
        inside = grown
        run = _over_a_part(cells, inside & calm)
    some = _some(np.flatnonzero(~inside if not inside.all() else inside))
    seen_some, run_some = cells.reshape(-1, 3)[some], run.reshape(-1, 3)[some]
    ladder = lab_of(colours)
    best, found = np.inf, (0, 0.0)
    for step in range(len(colours)):
        for exposure in (0.0, *EXPOSURES):  # 0 for shade
            if exposure and (run_some < colours[step] * exposure - 0.03).mean() > 0.05:
                continue  # nothing takes light away but shade
            even = _under(seen_some, run_some, colours[step], exposure)
            far = _distances2(lab_of(even), ladder)
            off = float(np.minimum(np.sqrt(far.min(axis=1)), FAR).mean())
            # Held against how far the steps they are given to are from that one: under too bright an exposure all are
            # near to it, under too faint a one they are far from everything.
            told = float(np.sqrt(((ladder[far.argmin(axis=1)] - ladder[step]) ** 2).sum(axis=-1)).mean())
            cost = (off + 1.0) / (told + 1.0) + NOT_DARK * (step > 0) + PLAIN * abs(np.log2(exposure or 1.0))
            if exposure:
                cost += GLARING * float((run_some - colours[step] * exposure).mean())
            if cost < best:
                best, found = cost, (step, exposure)
    step, exposure = found
    if exposure:
        glare = run - exposure * colours[step]
        return (colours * exposure).astype(np.float32), np.ones(parts.shape, np.float32), glare.astype(np.float32)
    ratio = run / np.maximum(colours[step], 0.01)
    tint = np.median(ratio.reshape(-1, 3), axis=0)
    shade = np.clip((ratio / tint).mean(axis=-1), LEAST_SHADE, MOST_SHADE)
    return (colours * tint).astype(np.float32), shade.astype(np.float32), np.zeros(cells.shape, np.float32)


def _goes_on(cells: Floats, run: Floats, parts: Whole, calm: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """The parts that look as the light over another part leads to expect: what a mark or a line cuts off from it."""
    off = np.sqrt(((lab_of(cells) - lab_of(run)) ** 2).sum(axis=-1))
    names = np.arange(1, int(parts.max()) + 1)
    middle = ndimage.median(off, np.where(calm, parts, 0), names) if len(names) else np.zeros(0)
    return np.isin(parts, names[np.nan_to_num(middle, nan=FAR) < ALIKE])


def _under(cells: Floats, run: Floats, own: Floats, exposure: float) -> Floats:
    """Cells as the screen would have sent them, with the light over a part of one step's `own` colour taken out: light
    that adds, under an exposure, or shade where that is 0."""
    if exposure:
        even: Floats = (cells - run) / exposure + own
        return even
    return cells * (np.maximum(own, 0.01) / np.maximum(run, 1e-3))


def _some(places: Whole) -> Whole:
    return places[:: max(len(places) // SAMPLE, 1)]


def _over_a_part(cells: Floats, inside: NDArray[np.bool_]) -> Floats:
    """How the light runs over a part, carried on smoothly to where that part is not, shape of `cells`."""
    rows, pings = inside.shape
    coarse = (max(rows // COARSE, 1), max(pings // COARSE, 1))
    weight = _taken_together(inside.astype(np.float32), coarse)
    light = [_taken_together(cells[..., c] * inside, coarse) for c in range(3)]
    run = np.zeros((*weight.shape, 3), np.float32)
    held = np.zeros(weight.shape, np.float32)
    for width in RUN_WIDTHS:  # from near to far: where the part is near, that tells
        sigma = (width * weight.shape[0], width * weight.shape[1])
        near = ndimage.gaussian_filter(weight, sigma, mode="constant", truncate=3.0)
        share = np.minimum(near / 0.05, 1.0) * (1.0 - held)
        for c in range(3):
            mean = ndimage.gaussian_filter(light[c], sigma, mode="constant", truncate=3.0) / np.maximum(near, 1e-6)
            run[..., c] += share * mean
        held += share
    mean = np.array([float(one.sum()) for one in light]) / max(float(weight.sum()), 1e-6)
    run += (1.0 - held)[..., None] * mean
    return np.stack([_spread_out(run[..., c], (rows, pings)) for c in range(3)], axis=-1)


def _distances2(lab: Floats, to: Floats) -> Floats:
    found: Floats = (lab**2).sum(-1, keepdims=True) - 2.0 * lab @ to.T + (to**2).sum(-1)
    return np.maximum(found, 0.0)


def _nearest(cells: Floats, colours: Floats) -> tuple[NDArray[np.intp], Floats, Floats]:
    """The nearest colour of each cell, and how far off it and the next best are (CIE 1976)."""
    far = _distances2(lab_of(cells), lab_of(colours))
    levels = far.argmin(axis=-1)
    two = np.sqrt(np.partition(far, 1, axis=-1)[..., :2])
    return levels, two[..., 0], two[..., 1]


def _sureness(off: Floats, next_off: Floats) -> Floats:
    """What a cell counts for when the light is fitted: nothing when it is far off, little when two steps are near."""
    clear: Floats = np.exp(-0.5 * (off / 8.0) ** 2) * np.clip((next_off - off) / (next_off + off + 1.0), 0.02, 1.0)
    return clear


def plain_parts(cells: Floats) -> tuple[Whole, NDArray[np.bool_]]:
    """The parts of a picture that no edge runs through, numbered from 1, 0 for edges and small parts; and the cells
    that are as calm as most. Both of shape (rows, pings)."""
    lab = lab_of(cells)
    for sigma in SMOOTHED:  # as little as lets a large part hold together
        even = ndimage.gaussian_filter(lab, (sigma, sigma, 0.0))
        down, across = np.gradient(even, axis=(0, 1))
        slope = np.sqrt((down**2 + across**2).sum(axis=-1))
        # An edge stands out of what noise does everywhere.
        usual = float(np.median(slope))
        parts, count = ndimage.label(slope <= np.clip(3.0 * usual, 1.0, SHARPEST_LIGHT))
        size = np.bincount(parts.ravel(), minlength=count + 1)
        size[0] = 0
        if size.max() >= LARGE * parts.size:
            break
    kept = np.flatnonzero(size >= LEAST_PLAIN * parts.size)
    number = np.zeros(count + 1, dtype=np.intp)
    number[kept] = np.arange(1, len(kept) + 1)
    return number[parts], slope <= max(1.5 * usual, 0.5)


def _noise(lab: Floats) -> float:
    """How far a cell is from its neighbours' middle, for half of the cells (CIE 1976, summed)."""
    return float(np.median(np.abs(lab[:, 2:] + lab[:, :-2] - 2.0 * lab[:, 1:-1]).sum(axis=-1)))


def _hold_whole(parts: Whole, even: Floats, seen: Floats, levels: Whole, sure: Floats) -> None:
    """Give each plain part to one step, in place: the one that most of its cells are near to, as long as enough are."""
    for part in range(1, int(parts.max()) + 1):
        cells = np.flatnonzero(parts == part)
        some = cells[:: max(len(cells) // SAMPLE, 1)]
        near = np.exp(-0.5 * _distances2(lab_of(even.reshape(-1, 3)[some]), lab_of(seen)) / FITS**2).mean(axis=0)
        best = int(near.argmax())
        if near[best] > FITTING:
            levels.flat[cells], sure.flat[cells] = best, 1.0
        else:
            sure.flat[cells] = 0.0


def _evened(cells: Floats, shade: Floats, glare: Floats) -> Floats:
    """The cells as they would be seen with neither shade nor glare."""
    even: Floats = (cells - glare) / shade[..., None]
    return even


def _light_fitted(cells: Floats, given: Floats, sure: Floats, width: float) -> tuple[Floats, Floats]:
    """Shade (rows, pings) and glare (rows, pings, 3) about every cell: the line of least squares from the colour that
    cells were given to the light that they send, over a neighbourhood of `width` of the picture.

    It leans on an even light with the weight of a few cells: a place that shows one colour alone cannot tell shade from
    glare.
    """
    rows, pings = cells.shape[:2]
    coarse = (max(rows // COARSE, 1), max(pings // COARSE, 1))

    def about(what: Floats) -> Floats:
        small = _taken_together(what, coarse)
        sigma = (width * small.shape[0] / 2.0, width * small.shape[1] / 2.0)
        smooth: Floats = ndimage.gaussian_filter(small, sigma, mode="nearest", truncate=2.5)
        return smooth

    weight = about(sure) + 1e-4
    mean_given = np.stack([about(sure * given[..., c]) for c in range(3)], axis=-1) / weight[..., None]
    mean_cell = np.stack([about(sure * cells[..., c]) for c in range(3)], axis=-1) / weight[..., None]
    both = sum(about(sure * given[..., c] * cells[..., c]) for c in range(3)) / weight
    square = sum(about(sure * given[..., c] ** 2) for c in range(3)) / weight
    covered = both - (mean_given * mean_cell).sum(-1)
    spread = square - (mean_given**2).sum(-1)
    shade = np.clip((covered + LEAN) / (np.maximum(spread, 0.0) + LEAN), LEAST_SHADE, MOST_SHADE)
    glare = mean_cell - shade[..., None] * mean_given
    white = glare.mean(-1, keepdims=True)
    tint = MOST_TINT * np.abs(white) + 0.01
    glare = np.clip(glare, white - tint, white + tint)
    # Nothing takes light away but shade.
    glare = np.maximum(glare, -0.02)
    shape = (rows, pings)
    return _spread_out(shade, shape), np.stack([_spread_out(glare[..., c], shape) for c in range(3)], axis=-1)


def _taken_together(what: Floats, by: tuple[int, int]) -> Floats:
    """Means of blocks, the last row and column of blocks filled with what stands at the edge."""
    down, across = by
    padded = np.pad(what, ((0, -what.shape[0] % down), (0, -what.shape[1] % across)), mode="edge")
    blocks = padded.reshape(padded.shape[0] // down, down, padded.shape[1] // across, across)
    means: Floats = blocks.mean(axis=(1, 3))
    return means


def _spread_out(small: Floats, shape: tuple[int, int]) -> Floats:
    """A coarse field at every cell, even between its places."""
    down = np.clip((np.arange(shape[0]) + 0.5) * small.shape[0] / shape[0] - 0.5, 0, small.shape[0] - 1)
    across = np.clip((np.arange(shape[1]) + 0.5) * small.shape[1] / shape[1] - 0.5, 0, small.shape[1] - 1)
    i, j = down.astype(np.intp), across.astype(np.intp)
    i2, j2 = np.minimum(i + 1, small.shape[0] - 1), np.minimum(j + 1, small.shape[1] - 1)
    fi, fj = (down - i)[:, None], (across - j)[None, :]
    upper = small[i][:, j] * (1 - fj) + small[i][:, j2] * fj
    lower = small[i2][:, j] * (1 - fj) + small[i2][:, j2] * fj
    even: Floats = (upper * (1 - fi) + lower * fi).astype(np.float32)
    return even


def _off_all(cells: Floats, off: Floats, seen: Floats) -> Floats:
    """How far cells are from every colour and every mixture of dark water and a step, or of a step and the next."""
    doubtful = np.flatnonzero(off > FITS)
    least = off.copy()
    if not len(doubtful):
        return least
    lab = lab_of(cells.reshape(-1, 3)[doubtful])
    near = off.flat[doubtful]
    for first, other in {*((0, k) for k in range(1, len(seen))), *((k, k + 1) for k in range(1, len(seen) - 1))}:
        for share in MIXTURES:  # light mixes, not colours
            mixed = lab_of(share * seen[first] + (1.0 - share) * seen[other])
            near = np.minimum(near, np.sqrt(((lab - mixed) ** 2).sum(axis=-1)))
    least.flat[doubtful] = near
    return least


def _own_colours(cells: Floats, levels: NDArray[np.intp], sure: Floats, seen: Floats) -> Floats:
    """Each step's colour as this camera shows it: the mean of its sure cells, leaning on what was held before."""
    own = seen.copy()
    held = 0.002 * sure.size
    weight = np.bincount(levels.ravel(), sure.ravel(), len(seen))
    for c in range(3):
        total = np.bincount(levels.ravel(), (sure * cells[..., c]).ravel(), len(seen))
        own[:, c] = (total + held * seen[:, c]) / (weight + held)
    return own
