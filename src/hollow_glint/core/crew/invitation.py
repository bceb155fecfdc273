"""Who comes in: an invitation for one, that ends by itself, as a code or as six words; guesses slowed, then stopped.

What is secret is known here only by its SHA-256 (FIPS 180-4): who reads the store cannot come in by it. No clock and no
chance is taken from anywhere but what is given.
"""

from __future__ import annotations

import hashlib
import hmac
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Final

from ..checks import InputError

LASTS_S: Final = 600.0
TOKEN_BYTES: Final = 16
WORD_COUNT: Final = 6  # of 256 words each: 48 bits, beside guesses that are stopped after a dozen
SLOWED_AFTER, STOPPED_AFTER, STOPPED_ALL_AFTER = 3, 12, 60  # wrong guesses of one address, and of all together
FORGETS_S: Final = 1800.0
SLOWEST_S: Final = 30.0

_WORDS: Final = """
    acorn alder amber anvil apple apron arrow aspen attic autumn badge baker banjo barley barn basil basket beach
    beacon bead bean beaver bell berry birch blanket blossom boat bonnet book boot bottle bowl branch bread breeze brick
    bridge broom brush bucket bundle butter button cabin cable camel candle canoe canvas carpet carrot castle cedar
    cellar chalk cherry chest chimney cider cinder clay cliff cloak clover coast cobble coffee collar comet copper coral
    corner cotton cradle crane creek crown cup curtain daisy dawn deer desk diamond dinner dock dough dove drawer drum
    dune eagle ember engine falcon fern ferry fiddle field flame flannel flute forest fork fossil fountain garden garlic
    gate ginger glacier glass glove goat grain granite grape gravel guitar hammer harbor harvest hazel heather hedge
    helmet heron hill hinge honey hood horn island ivory ivy jacket jasmine jewel jug juniper kettle kitchen kite knot
    ladder lagoon lamp lantern larch lark latch laurel lavender leaf ledge lemon lichen lilac linen lizard loaf locket
    loom lotus lumber magnet mallet mango maple marble marsh meadow melon mill mint mirror mitten moon moss mountain
    mustard needle nest nettle nickel nutmeg oak oar oasis oat olive onion orange orchard otter oven owl paddle palace
    panel paper parsley pasture path pebble pepper petal piano pine pillow plank plate plum pocket pond poplar
    porch potato prairie pumpkin quartz quilt rabbit raft rain raven reed ribbon ridge river robin rope rose saddle
    sail salmon sand scarf shell shovel silver sled snow spoon spruce star stone stove straw sugar swan table teapot
    thistle timber
"""
WORDS: Final = tuple(_WORDS.split())


def sha256(secret: str) -> str:
    """The digest under which a secret is kept."""
    return hashlib.sha256(secret.encode()).hexdigest()


def six_words(chance: bytes) -> str:
    """Six words for six bytes of chance. Raises ValueError for another number of bytes."""
    if len(chance) != WORD_COUNT:
        raise InputError(f"chance has {len(chance)} bytes: accepted are {WORD_COUNT}")
    return " ".join(WORDS[one] for one in chance)


def as_said(words: str) -> str:
    """Words as they are compared: in small letters, one blank between them, however they were typed."""
    return " ".join(words.lower().replace(",", " ").replace("-", " ").split())


@dataclass(frozen=True)
class Invitation:
    """An invitation for one: digests of its code and its words, until when [s] it holds, whether somebody came."""

    code: str
    words: str
    until_s: float
    used: bool = False

    @classmethod
    def made(cls, code: str, words: str, now_s: float) -> Invitation:
        """A new one. Only its digests are kept."""
        return cls(sha256(code), sha256(as_said(words)), now_s + LASTS_S)

    def holds(self, now_s: float) -> bool:
        """Whether anybody can still come by it."""
        return not self.used and now_s < self.until_s

    def opened_by(self, given: str, now_s: float) -> bool:
        """Whether a code, or words, open it. Compared in one time, whatever is given."""
        by_code = hmac.compare_digest(sha256(given), self.code)
        by_words = hmac.compare_digest(sha256(as_said(given)), self.words)
        return (by_code or by_words) and self.holds(now_s)

    def spent(self) -> Invitation:
        """It, when somebody has come by it."""
        return replace(self, used=True)


@dataclass(frozen=True)
class Guesses:
    """Wrong guesses of late: when [s] each address made its own. Slowed after a few, then stopped until they are
    forgotten; where too many come from everywhere, everybody is stopped, for addresses cost nothing."""

    wrong: Mapping[str, tuple[float, ...]] = field(default_factory=dict)

    def _late(self, now_s: float) -> dict[str, tuple[float, ...]]:
        kept = {who: tuple(one for one in times if now_s - one < FORGETS_S) for who, times in self.wrong.items()}
        return {who: times for who, times in kept.items() if times}

    def wait_s(self, who: str, now_s: float) -> float | None:
        """How long [s] an address has to wait before its next guess is heard; None while it is stopped."""
        late = self._late(now_s)
        if sum(map(len, late.values())) >= STOPPED_ALL_AFTER:
            return None
        mine = late.get(who, ())
        if len(mine) >= STOPPED_AFTER:
            return None
        if len(mine) < SLOWED_AFTER:
            return 0.0
        pause = min(2.0 ** (len(mine) - SLOWED_AFTER + 1), SLOWEST_S)
        return max(mine[-1] + pause - now_s, 0.0)

    def with_wrong(self, who: str, now_s: float) -> Guesses:
        """With one wrong guess more."""
        late = self._late(now_s)
        return Guesses({**late, who: (*late.get(who, ()), now_s)})
