"""Which step of the ladder each cell shows, under whatever light fell on the screen.

What a camera sees of a step is its colour times what the shade lets through, plus what glare adds. Both change slowly
over a screen while steps change at once. So what no edge parts is one step, however the light runs over it; every other
cell is given to the nearest colour; and from all cells that are sure shade and glare are fitted about every place, in
turns, from wide to narrow. Several guesses of the light are followed, one light for all cells is weighed against them,
and the likeliest outcome is held. The camera's own exposure, white balance and curve come out as a colour of its own
for each step. A cell that no step explains is masked: numbers, a thumb.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from ..lazily import Lazily
from .colour import distances2, lab_of
from .first_light import FAR, LEAST_SHADE, MOST_SHADE, EvenLight, FirstLight, even_light, first_lights, sampled_of
from .nearest_step import nearest, sureness
from .one_curve import under_one_curve
from .plain_parts import Whole, coarse, plain_parts, spread_out, taken_together

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

LEAST_APART: Final = 1.5  # between two colours of a ladder (CIE 1976); nearer ones no eye tells apart
CALM: Final = 6.0  # how far a cell may be from its neighbours' middle (CIE 1976, summed) and be taken as it is
MOST_SMOOTHED: Final = 1.2  # cells
MOST_SPECKLED: Final = 0.1  # from this share of speckle on, what differs from cell to cell is no noise to be smoothed
PLAINLY: Final = 0.7  # what a first guess of how the light runs costs at most to be the only one beside an even light
FOLLOWED: Final = 3  # else so many are, and all that hold the largest part for dark water
EVENLY: Final = 0.82  # so much less unlikely must an even light be to be held: it seldom falls quite evenly
ALIKE: Final = 0.7  # and so much less than any of them one light for all cells, with nothing fitted to a place
SPARSE: Final = 2  # every so many cells each way are enough to tell which is likeliest
LEAST_USED: Final = 0.001  # share of the cells by which a step's own colour is known
UNBALANCED: Final = 2.0  # what twice as much of one light as of another costs (about CIE 1976), beyond
MOST_BALANCED: Final = 0.3  # (doublings) what a camera's white balance does, and
MOST_EXPOSED: Final = 0.5  # (doublings) what its exposure does
LIT: Final = 2.0  # what it costs that most cells are not dark water
WIDTHS: Final = (0.5, 0.25, 0.12, 0.08, 0.06)  # of the picture, over which shade and glare are held to be even
MIXTURES: Final = (0.15, 0.35, 0.6, 0.8)
LEAN: Final = 0.01  # how much colours must vary (light squared) to tell shade from glare
MOST_TINT: Final = 0.35  # how far glare may be from white, as a share of itself

FITS: Final = 6.0  # (CIE 1976) and
FITTING: Final = 0.1  # such a part is the step that this share of its cells is so near to, or none

Levels = NDArray[np.uint8]


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
    as_seen = cells
    parts, calm, speckled = plain_parts(cells)
    if speckled < MOST_SPECKLED and (calmed := _calmed(cells)) is not cells:
        cells = calmed
        parts, calm, _ = plain_parts(cells)
    guesses = first_lights(cells, colours, parts, calm)
    runs = guesses[:1]
    if guesses[0].cost > PLAINLY:
        runs = guesses[:FOLLOWED] + [one for one in guesses[FOLLOWED:] if one.step == 0]
    few = (slice(None, None, SPARSE), slice(None, None, SPARSE))

    def unlikely(one: FirstLight | EvenLight) -> float:
        return _settled(cells[few], parts[few], *one.at(few).light(colours)).unlikely(colours)

    likeliest: FirstLight | EvenLight
    least, likeliest = min(((unlikely(one), one) for one in runs), key=lambda tried: tried[0])
    even = even_light(cells, colours)
    if (evenly := unlikely(even)) < EVENLY * least:
        least, likeliest = evenly, even
    alike = [(one, under_one_curve(one, colours, even)) for one in ([cells] if cells is as_seen else [cells, as_seen])]
    in_one = [_all_alike(one[few], own).unlikely(colours) for one, own in alike]
    if min(in_one) < ALIKE * least:
        seen = _all_alike(*alike[int(np.argmin(in_one))])
    else:
        seen = _settled(cells, parts, *likeliest.light(colours))
    return SeenSteps(seen.levels.astype(np.uint8), seen.off, seen.glare.mean(axis=-1), seen.shade)


@dataclass(frozen=True, eq=False)
class _Settled:
    """Where a guess of the light leads: levels, how far off each cell is, shade, each of shape (rows, pings); glare
    (rows, pings, 3); the colours of dark water and of the steps as the camera shows them (steps + 1, 3)."""

    levels: Whole
    off: Floats
    shade: Floats
    glare: Floats
    colours: Floats

    def unlikely(self, ladder: Floats) -> float:
        """How unlikely that is (about CIE 1976): cells off every step, colours off the ladder's under one exposure and
        white balance, a white balance or an exposure that no camera has, another step than dark water nearly
        everywhere."""
        cells = np.bincount(self.levels.ravel(), minlength=len(ladder))
        used = cells > LEAST_USED * self.levels.size
        balance = (self.colours[used] * ladder[used]).sum(axis=0) / np.maximum((ladder[used] ** 2).sum(axis=0), 1e-6)
        balance = np.maximum(balance, 1e-3)
        own = lab_of(self.colours[used] / balance)
        unlike = np.sqrt(((own - lab_of(ladder[used])) ** 2).sum(axis=-1)).mean()
        tint, exposure = np.log2(balance.max() / balance.min()), np.log2(balance.mean())
        return float(
            np.minimum(self.off, FAR).mean() + unlike + UNBALANCED * max(tint - MOST_BALANCED, 0.0)
            + UNBALANCED * max(exposure - MOST_EXPOSED, 0.0) + LIT * float(cells.argmax() > 0)
        )  # fmt: skip


def _settled(cells: Floats, parts: Whole, seen: Floats, shade: Floats, glare: Floats) -> _Settled:
    """Steps, their colours and the light fitted in turns, from a guess on."""
    for width in WIDTHS:
        even = _evened(cells, shade, glare)
        levels, off, next_off = nearest(even, seen)
        sure = sureness(off, next_off)
        _hold_whole(parts, even, seen, levels, sure)
        shade, glare = _light_fitted(cells, seen[levels], sure, width)
        seen = _own_colours(_evened(cells, shade, glare), levels, sure, seen)
    even = _evened(cells, shade, glare)
    levels, off, _ = nearest(even, seen)
    return _Settled(levels, _off_all(even, off, seen), shade, glare, seen)


def _all_alike(cells: Floats, own: Floats) -> _Settled:
    """The same where all of the picture stands in one light, which shows the steps in `own` colours (steps + 1, 3)."""
    levels, off, _ = nearest(cells, own)
    shape = levels.shape
    return _Settled(levels, _off_all(cells, off, own), np.ones(shape), np.zeros((*shape, 3)), own)


def _calmed(cells: Floats) -> Floats:
    """The cells with moire and noise smoothed over their neighbours, by as much as they need: none of a calm photo."""
    noise = _noise(lab_of(cells))
    if noise < CALM:
        return cells
    sigma = min(0.4 + 0.05 * (noise - CALM), MOST_SMOOTHED)
    calm: Floats = ndimage.gaussian_filter(cells, (sigma, sigma, 0.0))
    return calm


def _noise(lab: Floats) -> float:
    """How far a cell is from its neighbours' middle, for half of the cells (CIE 1976, summed)."""
    return float(np.median(np.abs(lab[:, 2:] + lab[:, :-2] - 2.0 * lab[:, 1:-1]).sum(axis=-1)))


def _hold_whole(parts: Whole, even: Floats, seen: Floats, levels: Whole, sure: Floats) -> None:
    """Give each plain part to one step, in place: the one that most of its cells are near to, as long as enough are."""
    for part in range(1, int(parts.max()) + 1):
        cells = np.flatnonzero(parts == part)
        if not len(cells):  # a narrow one, between the cells that are looked at
            continue
        some = sampled_of(cells)
        near = np.exp(-0.5 * distances2(lab_of(even.reshape(-1, 3)[some]), lab_of(seen)) / FITS**2).mean(axis=0)
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
    by = coarse(cells.shape[:2], width)

    def about(what: Floats) -> Floats:
        small = taken_together(what, by)
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
    return spread_out(shade, shape), np.stack([spread_out(glare[..., c], shape) for c in range(3)], axis=-1)


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
            between = lab - lab_of(share * seen[first] + (1.0 - share) * seen[other])
            near = np.minimum(near, np.sqrt(np.einsum("ij,ij->i", between, between)))
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
