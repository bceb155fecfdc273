"""When no gain shows the lure in quiet water: what would open the gain window, each with what it gives."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, TypeAlias

from ..gear.forms import FORMS
from ..gear.lures import Lure
from ..tuning.joint import room_of
from ..tuning.situation import Situation
from ..wording import Change, Quantity, Sentence

WORTH_DB = 0.3  # less than this is not worth saying
LARGER = 1.5
Tried: TypeAlias = "tuple[Sentence, Situation, Change | None]"


@dataclass(frozen=True)
class Remedy:
    """Something that would widen the gain window: by how much [dB], whether that opens it, and a knob's change."""

    what: Sentence
    gain_db: float
    opens: bool
    change: Change | None = None


def remedies(s: Situation) -> tuple[Remedy, ...]:
    """What would widen the window, most first: each by how much."""
    base = room(s)
    found = (
        Remedy(what, gained, base + gained >= 0.0, change)
        for what, one, change in (*_knobs(s), *_hands(s))
        if (gained := room(one) - base) > WORTH_DB
    )
    # Of several steps of one knob, the best alone.
    best: dict[str, Remedy] = {}
    for remedy in found:
        key = remedy.change.setting if remedy.change else remedy.what.text
        if key not in best or remedy.gain_db > best[key].gain_db:
            best[key] = remedy
    return tuple(sorted(best.values(), key=lambda one: -one.gain_db))


def _knobs(s: Situation) -> Iterator[Tried]:
    """The unit's own knobs, each a step that could help."""
    unit, settings = s.unit, s.settings

    def turned(name: str, at: int, text: str, **values: Quantity) -> Tried:
        turn: dict[str, Any] = {name: at}
        return Sentence(text, values), replace(s, settings=replace(settings, **turn)), Change(name, at)

    for i, one in enumerate(unit.beams):
        if one.width_deg < 0.9 * unit.beams[settings.beam].width_deg:
            yield turned("beam", i, "The narrow beam, {width}", width=Quantity(one.width_deg, "degrees"))
    for i, pulse in enumerate(unit.pulses):
        if pulse.duration_s < 0.9 * unit.pulses[settings.pulse].duration_s:
            yield turned("pulse", i, f"The shorter pulse, {pulse.name}")
    for i in range(len(unit.rejections)):
        if i != settings.rejection:
            yield turned("rejection", i, "Interference rejection, step {step}", step=Quantity(i, "count"))
    for i, ladder in enumerate(unit.ladders):
        if ladder.first_begins != unit.ladders[settings.ladder].first_begins:
            yield turned("ladder", i, f"Another ladder: {ladder.name}")
    for i, bins in enumerate(unit.noise_filters):
        if bins > unit.noise_filters[settings.noise_filter]:
            yield turned("noise_filter", i, "The noise filter, step {step}", step=Quantity(i, "count"))
    for i, slope in enumerate(unit.tvg_db_decade):
        if slope > unit.tvg_db_decade[settings.tvg]:
            yield turned("tvg", i, "Time-varied gain, step {step}", step=Quantity(i, "count"))


def _hands(s: Situation) -> Iterator[Tried]:
    """What hands can do: another lure, the face lower, waiting."""
    scene, lure = s.scene, s.lure
    bigger = _half_as_large_again(lure)
    if bigger is not None:
        size = Quantity(1000.0 * max(bigger.diameter_m, bigger.length_m), "mm")
        yield Sentence("A lure half as large again, {size}", {"size": size}), replace(s, lure=bigger), None
    lower = scene.face_depth_m + 0.3
    if lower < s.lure_depth_m - 1.0:
        hung = replace(s, scene=replace(scene, face_depth_m=lower))
        yield Sentence("The face lower, at {face}", {"face": Quantity(lower, "m")}), hung, None
    if scene.plankton != "none":
        waited = replace(s, scene=replace(scene, plankton="none"))
        yield Sentence("Waiting until the plankton has gone down"), waited, None


def _half_as_large_again(lure: Lure) -> Lure | None:
    """The lure with every measure of its form half as large again; None where its form does not go so far."""
    spans = FORMS[lure.form]
    diameter, length = LARGER * lure.diameter_m, LARGER * lure.length_m
    if diameter > spans.diameter_m[1] or (spans.length_m is not None and length > spans.length_m[1]):
        return None
    return replace(lure, diameter_m=diameter, length_m=length)


def room(s: Situation) -> float:
    """Width of the window [dB] as far as the knob reaches; very negative while the lure is out of the beam."""
    return room_of(s, s.settings)
