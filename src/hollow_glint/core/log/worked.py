"""Settings that worked: where the gain stood when fish came, at this hole, and in water and light like it.

Held beside the hole card of now: what one used then, what the card says now, and what is different between the two that
gain depends on.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..wording import Quantity, Sentence
from .season import Piece, pieces_of
from .season import StayTold as Told

LEAST_GOOD = 1  # bites of a stay that is called good


@dataclass(frozen=True)
class Now:
    """What the card of now is made for, in the log's words; gain in the unit's own numbers."""

    hole: str
    unit: str
    gain: float
    lure_form: str = ""
    lure_size_m: float | None = None
    beam: str = ""
    clarity: str = ""
    depth_m: float | None = None
    light: str = ""


@dataclass(frozen=True)
class Worked:
    """Where the gain stood on good stays of one kind of place, how many those were, and what that says."""

    where: str
    low: float
    high: float
    stays: int
    bites: int
    says: Sentence


def gains_that_worked(told: Sequence[Told]) -> list[tuple[str, str, float, int]]:
    """Unit, clarity of the water ("" where nobody noted it), gain and bites of every stay with a bite."""
    out = []
    for one in told:
        bites = sum(piece.count("bites") for piece in pieces_of(one))
        if one.stay.settings is not None and one.stay.unit and bites >= LEAST_GOOD:
            out.append((one.stay.unit, str(one.stay.clarity or ""), one.stay.settings.gain, bites))
    return out


def worked(told: Sequence[Told], now: Now) -> list[Worked]:
    """What worked with this unit: at this hole, and in water of this clarity in this light elsewhere."""
    good = [
        (one, pieces)
        for one in told
        if one.stay.settings is not None and one.stay.unit == now.unit
        for pieces in [pieces_of(one)]
        if sum(piece.count("bites") for piece in pieces) >= LEAST_GOOD
    ]
    here = [entry for entry in good if entry[0].hole == now.hole]
    like = [
        entry
        for entry in good
        if entry[0].hole != now.hole
        and now.clarity
        and entry[0].stay.clarity == now.clarity
        and (not now.light or _light(entry[1]) in ("", now.light))
    ]
    words = f"in {now.clarity} water" + (f" by {now.light}" if now.light else "")
    return [_worked(where, found, now) for where, found in (("here", here), (words, like)) if found]


def _worked(where: str, found: Sequence[tuple[Told, list[Piece]]], now: Now) -> Worked:
    gains = [one.stay.settings.gain for one, _ in found if one.stay.settings is not None]
    bites = sum(piece.count("bites") for _, pieces in found for piece in pieces)
    low, high = min(gains), max(gains)
    values = {
        "stays": Quantity(len(found), "count"),
        "low": Quantity(low, "gain"),
        "high": Quantity(high, "gain"),
        "now": Quantity(now.gain, "gain"),
        "bites": Quantity(bites, "count"),
    }
    gain = "gain {low}" if low == high else "gain {low} to {high}"
    said = f"What you used {where} on {{stays}} good stays ({{bites}} bites): {gain}; the card says {{now}}."
    if low <= now.gain <= high:
        return Worked(where, low, high, len(found), bites, Sentence(f"{said} They agree.", values))
    differ = _differences([one for one, _ in found], now)
    if differ:
        said += f" They differ with {_listed(differ)}."
    else:
        said += (
            " Nothing that is noted explains it: more weed or life in the water then, or a unit whose numbers want a "
            "new calibration."
        )
    return Worked(where, low, high, len(found), bites, Sentence(said, values))


def _differences(stays: Sequence[Told], now: Now) -> list[str]:
    """What gain depends on and was not as it is now, on any of the stays."""
    found = []
    lures = {one.stay.lure_form for one in stays if one.stay.lure_form}
    sizes = {one.stay.lure_size_m for one in stays if one.stay.lure_size_m}
    if now.lure_form and lures - {now.lure_form}:
        found.append(f"the lure ({_listed(sorted(lures - {now.lure_form}))} then, {now.lure_form} now)")
    elif now.lure_size_m and any(abs(one - now.lure_size_m) > 0.2 * now.lure_size_m for one in sizes):
        found.append("the size of the lure")
    beams = {one.stay.beam for one in stays if one.stay.beam}
    if now.beam and beams - {now.beam}:
        found.append(f"the beam ({_listed(sorted(beams - {now.beam}))} then, {now.beam} now)")
    waters = {str(one.stay.clarity) for one in stays if one.stay.clarity}
    if now.clarity and waters - {now.clarity}:
        found.append(f"the water ({_listed(sorted(waters - {now.clarity}))} then, {now.clarity} now)")
    depths = [one.stay.depth_m for one in stays if one.stay.depth_m]
    if now.depth_m and depths and max(abs(one - now.depth_m) for one in depths) > 0.15 * now.depth_m:
        found.append("the depth")
    return found


def _light(pieces: Sequence[Piece]) -> str:
    """The light of most of a stay: day, dusk or night; "" where nobody knows."""
    hours: dict[str, float] = {}
    for one in pieces:
        if light := one.factors.get("light"):
            plain = "day" if light.endswith("day") else light
            hours[plain] = hours.get(plain, 0.0) + one.rod_hours
    return max(hours, key=lambda name: hours[name], default="")


def _listed(words: Sequence[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
