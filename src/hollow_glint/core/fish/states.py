"""What a fish can be about, how it can bite, and what it is that comes."""

from __future__ import annotations

from dataclasses import dataclass

MOOD_NAMES = ("passing", "curious", "following", "mouthing", "hooked", "put off")
PASSING, CURIOUS, FOLLOWING, MOUTHING, HOOKED, PUT_OFF = range(6)
BITES = ("tap", "load", "slack", "nip")
TAP, LOAD, SLACK, NIP = range(4)


@dataclass(frozen=True)
class Newcomer:
    """A fish on its way: species, length [m], own depth [m], where it comes from and how near it would pass.

    away_m, bearing_rad   where it starts from the hole; miss_m how far off the hole it would pass; steers past it
    stays_s               how long it looks at most, None for its mood's own; comes: whether it ever comes to a lure
    """

    species: str
    length_m: float
    home_m: float
    away_m: float = 3.5
    bearing_rad: float = 0.0
    miss_m: float = 0.0
    stays_s: float | None = None
    comes: bool | None = None


@dataclass(frozen=True)
class FishAct:
    """What a fish did: a word, which fish, where [m], its length [m], and the number behind it, if there is one."""

    kind: str
    fish: int
    depth_m: float
    length_m: float
    number: float = 0.0
