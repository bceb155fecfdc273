"""What would mend a picture, told from the picture alone: how much of its water is lit, how far clutter reaches, what a
neighbour draws, how bright the bottom is, how much of the range is used.

Lit water: echoes of many small things together are speckle, whose intensity is exponentially distributed (Rayleigh's
amplitude; Simmonds and MacLennan 2005). Of such water a threshold T lights the share exp(-T / mean): that share alone
tells how far below the threshold the water must come.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..gear.settings import smallest_range
from ..wording import Change, Quantity, Sentence
from .column import Standing
from .evidence import ReaderSetup
from .reader import Reader
from .recording import Recording
from .recording_reader import WARMING_S, read_on

MOST_LIT: Final = 0.08  # share of lit water from which it hides fish; common practice, no source
FULL: Final = 0.2  # more than a neighbour lights
WANTED_LIT: Final = 0.02  # "speckled" begins there: see column.SPECKLED
ALL_LIT: Final = 0.98  # more says no more
DEEP_CLUTTER_M: Final = 1.2  # below the face; common practice, no source
STRUCK: Final = 0.03  # share of pings
WORTH: Final = 0.75  # a range that is so much of the one shown, or less, is worth turning to
Levels = NDArray[np.uint8]
BARE_STEP: Final = 0.5  # of a ladder's step: a bottom nearer to the strongest colour than that is as strong


@dataclass(frozen=True)
class Mend:
    """What would mend a picture, and what shows it; the knob's change where one is known."""

    what: Sentence
    because: Sentence
    change: Change | None = None


@dataclass(frozen=True)
class PictureState:
    """What a picture alone tells of how it is tuned: the share of water that is lit; where the bottom is [m from the
    face], None without one; what would mend it, what hides most first."""

    lit_share: float
    bottom_m: float | None
    mends: tuple[Mend, ...]


def mending(recording: Recording) -> PictureState:
    """What would mend the picture at a recording's end, from its last seconds as they were seen."""
    first = int(np.searchsorted(recording.time_s, recording.time_s[-1] - WARMING_S))
    first = min(max(first, recording.settings[-1][0]), recording.time_s.size - 2)  # since the knobs were turned
    reader: Reader | None = None
    for one, _ in read_on(recording, first, None, []):
        reader = one
    assert reader is not None  # a recording has two pings at least
    standing, view = reader.standing, reader.view
    top, foot = float(recording.top_m[-1]), float(recording.bottom_m[-1])
    lit = max(reader.speckle, _water_lit(recording.levels[first:], standing, top, foot))
    untold = {one.split(":")[0] for one in recording.missing}
    found: tuple[Mend | None, ...]
    if lit > (FULL if standing.company else MOST_LIT):  # first of all: nothing else can be told of such water
        found = (_lit(lit, view, untold),)
    else:
        strange = (_neighbour(standing, view, untold), _electrical(standing))
        found = (*strange, _clutter(standing, view, top))
        if "unit" not in untold:  # a stand-in's ranges are nobody's
            found += (_range(standing, view, top, foot),)
            found += (_bottom(standing, view, lit, untold),) if strange == (None, None) else ()
    return PictureState(lit, standing.bottom_m, tuple(one for one in found if one is not None))


def _water_lit(levels: Levels, standing: Standing, top: float, foot: float) -> float:
    """Share of pings in which the middle one of the water's rows is lit: marks are of few rows, and what is lit from
    the face down to the bottom looks like clutter without end. `levels` (pings, rows), ranges [m from the face]."""
    range_m = top + (np.arange(levels.shape[1]) + 0.5) * (foot - top) / levels.shape[1]
    # Pings that are lit from end to end tell nothing of a bottom.
    end = foot if standing.bottom_m is None or standing.struck > FULL else standing.bottom_m
    water = (range_m > min(standing.clutter_end_m, DEEP_CLUTTER_M)) & (range_m < end)
    return float(np.median((levels[:, water] > 0).mean(axis=0))) if water.any() else 0.0


def steps_less(lit: float, db_per_step: float) -> int:
    """How many steps less gain bring lit water to WANTED_LIT, of what each step of the knob is worth [dB]."""
    over = np.log(WANTED_LIT) / np.log(np.clip(lit, WANTED_LIT, ALL_LIT))
    return max(int(np.ceil(10.0 * np.log10(over) / db_per_step - 1e-9)), 1)


def _gain(view: ReaderSetup, steps: int, untold: set[str]) -> Change | None:
    """Where the knob would stand, where somebody told where it stands."""
    knob = view.unit.gain
    return None if "gain" in untold else Change("gain", knob.nearest(view.settings.gain + steps * knob.step))


def _lit(lit: float, view: ReaderSetup, untold: set[str]) -> Mend:
    share = Quantity(100.0 * lit, "percent")
    because = Sentence("Your water is lit: {share} of it between clutter and bottom", {"share": share})
    if "unit" in untold:
        return Mend(Sentence("Less gain, then look for your lure again"), because)
    about = "About" if lit < ALL_LIT else "At least"
    less = steps_less(lit, view.unit.gain.db_per_step)
    what = Sentence(f"{about} {{n}} steps less gain, then look for your lure again", {"n": Quantity(less, "count")})
    return Mend(what, because, _gain(view, -less, untold))


def _neighbour(standing: Standing, view: ReaderSetup, untold: set[str]) -> Mend | None:
    if not standing.company:
        return None
    because = Sentence(
        "Marks that live for one ping, {n} a second: a neighbour on your frequency, or electrical noise",
        {"n": Quantity(standing.foreign_per_s, "count")},
    )
    if "unit" in untold:
        return Mend(Sentence("More interference rejection, or some metres between you"), because)
    step = view.settings.rejection + 1
    if step < len(view.unit.rejections):
        what = Sentence("Interference rejection one step up, to {step}", {"step": Quantity(step, "count")})
        return Mend(what, because, Change("rejection", step))
    return Mend(
        Sentence("Another frequency or a narrower beam, or some metres between you: rejection has no more"), because
    )


def _electrical(standing: Standing) -> Mend | None:
    if standing.struck <= STRUCK:
        return None
    return Mend(
        Sentence("Look to battery, cables and chargers: the noise comes by wire"),
        Sentence(
            "{share} of the pings are lit from end to end", {"share": Quantity(100.0 * standing.struck, "percent")}
        ),
    )


def _clutter(standing: Standing, view: ReaderSetup, top: float) -> Mend | None:
    if top > DEEP_CLUTTER_M or standing.clutter_end_m <= DEEP_CLUTTER_M:
        return None
    because = Sentence(
        "Clutter reaches down to {depth}", {"depth": Quantity(standing.clutter_end_m + view.face_depth_m, "m")}
    )
    return Mend(Sentence("Hang the face below the ice and wet it; after that, less gain"), because)


def _range(standing: Standing, view: ReaderSetup, top: float, foot: float) -> Mend | None:
    if standing.bottom_m is None:
        return Mend(
            Sentence("A longer range until the bottom shows; with none there, more gain or a plumb transducer"),
            Sentence("There is no bottom in the picture"),
        )
    wanted = smallest_range(view.unit, standing.bottom_m)
    if top > 0.5 or wanted > WORTH * foot:
        return None
    return Mend(
        Sentence(
            "A range of {range}: every mark {times} times as tall",
            {"range": Quantity(wanted, "m"), "times": Quantity(round(foot / wanted, 1), "count")},
        ),
        Sentence("Your range reaches to {range}, the bottom is at {bottom}",
                 {"range": Quantity(foot, "m"), "bottom": Quantity(standing.bottom_m, "m")}),
        Change("range_m", wanted),
    )  # fmt: skip


def _bottom(standing: Standing, view: ReaderSetup, lit: float, untold: set[str]) -> Mend | None:
    """A bottom that is not in the strongest colour: so is no fish, and small ones are not lit at all."""
    strongest = view.thresholds_db.size
    if standing.bottom_m is None or lit > WANTED_LIT or standing.bottom_level > strongest - 1 - BARE_STEP:
        return None
    level = max(round(standing.bottom_level), 1)
    short_db = float(view.thresholds_db[-1] - view.thresholds_db[level - 1])
    more = max(round(short_db / view.unit.gain.db_per_step), 1)
    return Mend(
        Sentence("About {n} steps more gain: the water is dark enough for it", {"n": Quantity(more, "count")}),
        Sentence("The bottom reaches {level} alone", {"level": Quantity(level, "step")}),
        _gain(view, more, untold),
    )
