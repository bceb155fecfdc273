"""What is taken for usual while nobody says otherwise. Common practice, no source; every number can be changed."""

from __future__ import annotations

from typing import Final

PACE_M: Final = 0.75  # on snow, in boots
USUAL_SCHOOL_M: Final = 1.5  # how far a school reaches from its middle
USUAL_FISH_M_S: Final = 0.2  # a school that is under way
USUAL_SCHOOLS_PER_KM2: Final = 60.0
USUAL_SURE_M2: Final = 20_000.0  # how much watched water that is worth: places differ
