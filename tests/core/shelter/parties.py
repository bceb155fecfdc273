"""Parties for the tests of the shelter."""

import numpy as np

from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.shelter.party import Party, Seat, ShelterHole

TRAIL, THREE, RING = profiles.TRAIL_UNIT, profiles.THREE_COLOUR_RING, profiles.TWO_BEAM_RING
SCROLLER, FINE = profiles.WIDE_NARROW_SCROLLER, profiles.SHORT_PULSE
UNITS = (TRAIL, THREE, RING, SCROLLER, FINE)
WATER = KnownHole(9.4)
TWO_ROWS = tuple(ShelterHole(x, y) for y in (1.1, -1.1) for x in (-2.1, -0.7, 0.7, 2.1))


def party(*units, water=WATER, holes=TWO_ROWS, nows=None, at=None) -> Party:
    """Seats with these units in the first of the holes, or in those of `at`."""
    places = range(len(units)) if at is None else at
    return Party(
        water,
        holes,
        tuple(
            Seat(f"Seat {k + 1}", unit, USUAL_JIG, hole, now=None if nows is None else nows[k])
            for k, (unit, hole) in enumerate(zip(units, places, strict=True))
        ),
    )


def scattered(rng, holes) -> np.ndarray:
    """How far that many holes are from each other, put down by chance over five metres."""
    while True:
        at = rng.uniform(-2.5, 2.5, (holes, 2))
        apart = np.hypot(*(at[:, None] - at[None]).transpose(2, 0, 1))
        if (apart + np.eye(holes)).min() > 0.5:
            return apart
