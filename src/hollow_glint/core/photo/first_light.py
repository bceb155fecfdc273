"""How light seems to fall on a picture, before any cell is given to a step: guesses to be followed.

The largest part without an edge is one step, most likely dark water: what light does over it is seen there at once.
Either that adds to the screen (glare) or takes from it (shade), under some exposure. Which step, and which of both, is
guessed from how near all other cells come to the ladder. Where no part is large, or the largest is several steps that
speckle makes one, that leads nowhere: so it is guessed as well that light falls evenly.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..lazily import Lazily
from .colour import distances2, lab_of
from .plain_parts import Whole, coarse, spread_out, taken_together

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

EXPOSURES: Final = tuple(2.0 ** (k / 6.0) for k in range(-12, 9))  # that are tried before anything is known
LEAST_FIRST: Final = 0.03  # share of the cells in a part that tells how the light runs
RUN_WIDTHS: Final = (0.02, 0.06, 0.15, 0.4)
SAMPLE: Final = 1500
JOINED: Final = 3  # times that parts are joined to the largest
ALIKE: Final = 8.0  # parts that go on where the light over another leads (CIE 1976) are the same step
NOT_DARK: Final = 0.35  # what it costs when the largest part is not dark water: it mostly is
PLAIN: Final = 0.03  # and an exposure of twice or half
GLARING: Final = 0.7  # and light added, as a share of white: shade is commoner than as much glare as that
FAR: Final = 20.0  # from here on (CIE 1976) a colour is as wrong as another
LEAST_SHADE, MOST_SHADE = 0.15, 4.0
BALANCED: Final = 0.3  # (doublings) how far a camera's white balance may be out, each way
TURNS: Final = 4  # in which an even light is fitted to the steps that it tells
LEAST_TOLD: Final = 20  # of the cells looked at


Light = tuple[Floats, Floats, Floats]


@dataclass(frozen=True, eq=False)
class FirstLight:
    """A guess: which step the largest part shows, under which exposure, 0 for shade; what it costs: less is likelier;
    how the light runs over that part, carried on everywhere (rows, pings, 3)."""

    cost: float
    step: int
    exposure: float
    run: Floats

    def at(self, some: tuple[slice, slice]) -> FirstLight:
        """The same at some of the cells."""
        return replace(self, run=self.run[some])

    def light(self, colours: Floats) -> Light:
        """The ladder as the camera exposed it, shape of `colours`; shade (rows, pings); glare (rows, pings, 3)."""
        shape = self.run.shape[:2]
        own = colours[self.step]
        if self.exposure:
            glare = (self.run - self.exposure * own).astype(np.float32)
            return (colours * self.exposure).astype(np.float32), np.ones(shape, np.float32), glare
        ratio = self.run / np.maximum(own, 0.01)
        tint = np.maximum(np.median(ratio.reshape(-1, 3), axis=0), 1e-3)  # a light that is not there at all
        shade = np.clip((ratio / tint).mean(axis=-1), LEAST_SHADE, MOST_SHADE)
        return (colours * tint).astype(np.float32), shade, np.zeros((*shape, 3), np.float32)


@dataclass(frozen=True, eq=False)
class EvenLight:
    """A guess: neither shade nor glare; what each of red, green and blue is multiplied by, shape (3,)."""

    gain: Floats
    shape: tuple[int, int]

    def at(self, some: tuple[slice, slice]) -> EvenLight:
        """The same at some of the cells."""
        rows, pings = (len(range(*one.indices(many))) for one, many in zip(some, self.shape, strict=True))
        return replace(self, shape=(rows, pings))

    def light(self, colours: Floats) -> Light:
        """The ladder as the camera exposed it, shape of `colours`; shade (rows, pings); glare (rows, pings, 3)."""
        none = np.zeros((*self.shape, 3), np.float32)
        return (colours * self.gain).astype(np.float32), np.ones(self.shape, np.float32), none


def even_light(cells: Floats, colours: Floats) -> EvenLight:
    """The exposure and white balance under which most cells are some step's, if light falls evenly: from every exposure
    on, steps and gain fitted in turns. `cells` (rows, pings, 3) and `colours` (steps + 1, 3) are light."""
    shape = cells.shape[0], cells.shape[1]
    some = cells.reshape(-1, 3)[sampled_of(np.arange(shape[0] * shape[1]))]
    ladder = lab_of(colours)
    tried = []
    for exposure in EXPOSURES:
        gain = np.full(3, exposure)
        for _ in range(TURNS):
            far = distances2(lab_of(some / gain), ladder)
            told = far.min(axis=1) < FAR**2
            if told.sum() < LEAST_TOLD:
                break
            own = colours[far.argmin(axis=1)][told]
            gain = (some[told] * own).sum(axis=0) / np.maximum((own**2).sum(axis=0), 1e-6)
            mean = np.clip(gain.mean(), EXPOSURES[0], EXPOSURES[-1])
            gain = np.clip(gain, mean * 2.0**-BALANCED, mean * 2.0**BALANCED)
        far = distances2(lab_of(some / gain), ladder)
        given = ladder[far.argmin(axis=1)]
        off = float(np.minimum(np.sqrt(far.min(axis=1)), FAR).mean())
        spread = float(np.sqrt(((given - given.mean(axis=0)) ** 2).sum(axis=-1)).mean())
        tried.append(((off + 1.0) / (spread + 1.0) + PLAIN * abs(float(np.log2(gain.mean()))), gain))
    return EvenLight(min(tried, key=lambda one: one[0])[1], shape)


def first_lights(cells: Floats, colours: Floats, parts: Whole, calm: NDArray[np.bool_]) -> list[FirstLight]:
    """What is guessed of the light, the likeliest first: for each step as shade and as glare. `cells` (rows, pings, 3)
    and `colours` (steps + 1, 3) are light; parts and calm ones as `plain_parts` has them."""
    inside, run = _largest_part(cells, parts, calm)
    some = sampled_of(np.flatnonzero(~inside if not inside.all() else inside))
    seen_some, run_some = cells.reshape(-1, 3)[some], run.reshape(-1, 3)[some]
    ladder = lab_of(colours)
    guessed: list[tuple[float, int, float]] = []
    for step in range(len(colours)):
        for exposures in ((0.0,), EXPOSURES):  # 0 for shade
            tried = []
            for exposure in exposures:
                if exposure and (run_some < colours[step] * exposure - 0.03).mean() > 0.05:
                    continue  # nothing takes light away but shade
                even = _under(seen_some, run_some, colours[step], exposure)
                cost = _cost(even, ladder, step) + PLAIN * abs(np.log2(exposure or 1.0))
                if exposure:
                    cost += GLARING * float((run_some - colours[step] * exposure).mean())
                tried.append((cost, step, exposure))
            guessed += [min(tried)] if tried else []
    return [FirstLight(*one, run) for one in sorted(guessed)]


def _cost(even: Floats, ladder: Floats, step: int) -> float:
    """How badly cells whose light was taken out fit the ladder. Held against how far the steps they are given to are
    from that of the largest part: under too bright an exposure all are near to it, under too faint a one they are far
    from everything."""
    far = distances2(lab_of(even), ladder)
    off = float(np.minimum(np.sqrt(far.min(axis=1)), FAR).mean())
    told = float(np.sqrt(((ladder[far.argmin(axis=1)] - ladder[step]) ** 2).sum(axis=-1)).mean())
    return (off + 1.0) / (told + 1.0) + NOT_DARK * (step > 0)


def _largest_part(cells: Floats, parts: Whole, calm: NDArray[np.bool_]) -> tuple[NDArray[np.bool_], Floats]:
    """The largest part with those that go on as it does, and how the light runs over it, carried on everywhere."""
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
    return inside, run


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


def sampled_of(places: Whole) -> Whole:
    """Evenly chosen ones of many places."""
    return places[:: max(len(places) // SAMPLE, 1)]


def _over_a_part(cells: Floats, inside: NDArray[np.bool_]) -> Floats:
    """How the light runs over a part, carried on smoothly to where that part is not, shape of `cells`."""
    rows, pings = inside.shape
    by = coarse(inside.shape)
    weight = taken_together(inside.astype(np.float32), by)
    light = [taken_together(cells[..., c] * inside, by) for c in range(3)]
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
    return np.stack([spread_out(run[..., c], (rows, pings)) for c in range(3)], axis=-1)
