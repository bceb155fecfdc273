"""An invitation opens once, for ten minutes, to its code or its words; guesses are slowed, then stopped."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.crew.invitation import (
    FORGETS_S,
    LASTS_S,
    STOPPED_AFTER,
    STOPPED_ALL_AFTER,
    WORD_COUNT,
    WORDS,
    Guesses,
    Invitation,
    sha256,
    six_words,
)

CODE, SAID = "ab" * 16, six_words(bytes([0, 1, 2, 3, 4, 255]))


def test_words_are_256_different_ones_that_are_told_apart():
    assert len(WORDS) == len(set(WORDS)) == 256
    assert all(one.isascii() and one.islower() and one.isalpha() and 3 <= len(one) <= 8 for one in WORDS)
    assert f"{WORDS[0]} {WORDS[1]} {WORDS[2]} {WORDS[3]} {WORDS[4]} {WORDS[255]}" == SAID
    with pytest.raises(InputError, match="6"):
        six_words(b"12345")


def test_the_digest_is_that_of_the_standard():
    """FIPS 180-4's own example."""
    assert sha256("abc") == "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"


def test_it_opens_to_its_code_and_its_words_however_they_are_typed():
    made = Invitation.made(CODE, SAID, 100.0)
    assert made.opened_by(CODE, 100.0) and made.opened_by(SAID, 100.0)
    assert made.opened_by(f"  {SAID.upper().replace(' ', ',  ')} ", 100.0)
    assert made.opened_by(SAID.replace(" ", "-"), 100.0)
    for wrong in ("", CODE[:-1], SAID.rsplit(" ", 1)[0], " ".join(reversed(SAID.split()))):
        assert not made.opened_by(wrong, 100.0)
    assert CODE not in repr(made) and WORDS[255] not in repr(made), "nothing secret is kept"


def test_it_opens_once_and_for_ten_minutes():
    made = Invitation.made(CODE, SAID, 0.0)
    assert made.opened_by(CODE, LASTS_S - 0.1) and not made.opened_by(CODE, LASTS_S)
    assert not made.spent().opened_by(CODE, 1.0)


def test_guesses_are_slowed_more_and_more_and_then_stopped():
    guesses, now, waits = Guesses(), 0.0, []
    for _ in range(STOPPED_AFTER):
        wait = guesses.wait_s("a", now)
        waits.append(wait)
        now += wait
        guesses = guesses.with_wrong("a", now)
    assert waits[:3] == [0.0, 0.0, 0.0] and waits == sorted(waits) and waits[-1] == 30.0
    assert guesses.wait_s("a", now) is None and guesses.wait_s("b", now) == 0.0
    assert guesses.wait_s("a", now + FORGETS_S) == 0.0, "it is forgotten in the end"


def test_guesses_from_everywhere_stop_everybody():
    guesses = Guesses()
    for k in range(STOPPED_ALL_AFTER):
        guesses = guesses.with_wrong(f"10.0.0.{k}", 0.0)
    assert guesses.wait_s("10.9.9.9", 1.0) is None
    # All that can be guessed in an invitation's ten minutes, against all that six words can be.
    assert STOPPED_ALL_AFTER / len(WORDS) ** WORD_COUNT < 1e-12
    assert math.log2(len(WORDS) ** WORD_COUNT) == 48.0


def test_waiting_does_not_come_to_less_than_nothing():
    rng = np.random.default_rng(2)
    guesses, now = Guesses(), 0.0
    for _ in range(200):
        now += float(rng.exponential(20.0))
        wait = guesses.wait_s("a", now)
        assert wait is None or 0.0 <= wait <= 30.0
        if rng.uniform() < 0.4:
            guesses = guesses.with_wrong("a", now)
