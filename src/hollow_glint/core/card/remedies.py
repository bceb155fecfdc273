"""When no gain shows the lure in quiet water: what would open the gain window, each with what it gives."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..tuning.situation import Situation, situation_at
from ..wording import Change, Quantity, Sentence

WORTH_DB = 0.3  # less than this is not worth saying


@dataclass(frozen=True)
class Remedy:
    """Something that would widen the gain window: by how much [dB], whether that opens it, and a knob's change."""

    what: Sentence
    gain_db: float
    opens: bool
    change: Change | None = None


def remedies(s: Situation) -> tuple[Remedy, ...]:
    """What would widen the window, most first: each by how much."""
    unit, settings, scene, lure = s.unit, s.settings, s.scene, s.lure
    base = room(s)
    tried: list[tuple[Sentence, Situation, Change | None]] = []

    def knob(text: str, name: str, at: int, **values: Quantity) -> None:
        tried.append((Sentence(text, values), replace(s, settings=replace(settings, **{name: at})), Change(name, at)))  # type: ignore[arg-type]

    for i, one in enumerate(unit.beams):
        if one.width_deg < 0.9 * unit.beams[settings.beam].width_deg:
            knob("The narrow beam, {width}", "beam", i, width=Quantity(one.width_deg, "degrees"))
    for i, pulse in enumerate(unit.pulses):
        if pulse.duration_s < 0.9 * unit.pulses[settings.pulse].duration_s:
            knob(f"The shorter pulse, {pulse.name}", "pulse", i)
    if settings.rejection + 1 < len(unit.rejections):
        top = len(unit.rejections) - 1
        knob("More interference rejection, {step}", "rejection", top, step=Quantity(top, "count"))
    for i, ladder in enumerate(unit.ladders):
        if ladder.first_begins != unit.ladders[settings.ladder].first_begins:
            knob(f"Another ladder: {ladder.name}", "ladder", i)
    for i, bins in enumerate(unit.noise_filters):
        if bins > unit.noise_filters[settings.noise_filter]:
            knob("The noise filter, step {step}", "noise_filter", i, step=Quantity(i, "count"))
    for i, slope in enumerate(unit.tvg_db_decade):
        if slope > unit.tvg_db_decade[settings.tvg]:
            knob("Time-varied gain, step {step}", "tvg", i, step=Quantity(i, "count"))
    larger = min(lure.diameter_m * 1.5, 0.02)
    if larger > lure.diameter_m:
        bigger = replace(lure, diameter_m=larger, length_m=min(lure.length_m * 1.5, 0.08))
        tried.append((Sentence("A lure half as large again, {size}", {"size": Quantity(1000.0 * larger, "mm")}),
                      replace(s, lure=bigger), None))  # fmt: skip
    lower = scene.face_depth_m + 0.3
    if lower < s.lure_depth_m - 1.0:
        tried.append((Sentence("The face lower, at {face}", {"face": Quantity(lower, "m")}),
                      replace(s, scene=replace(scene, face_depth_m=lower)), None))  # fmt: skip
    if scene.plankton != "none":
        waited = replace(s, scene=replace(scene, plankton="none"))
        tried.append((Sentence("Waiting until the plankton has gone down"), waited, None))
    found = [Remedy(said, gained, base + gained >= 0.0, change) for said, one, change in tried
             if (gained := room(one) - base) > WORTH_DB]  # fmt: skip
    # Of several steps of one knob, the best alone.
    best: dict[str, Remedy] = {}
    for opening in found:
        key = opening.change.setting if opening.change else opening.what.text
        if key not in best or opening.gain_db > best[key].gain_db:
            best[key] = opening
    return tuple(sorted(best.values(), key=lambda one: -one.gain_db))


def room(s: Situation) -> float:
    """Width of the window [dB] as far as the knob reaches; very negative while the lure is out of the beam."""
    fresh = situation_at(s.scene, s.unit, s.settings, s.lure, s.lure_depth_m)
    limits, scale = fresh.limits, s.unit.gain
    if not np.isfinite(limits.floor):
        return -400.0
    low, high = max(limits.floor, scale.minimum), min(limits.ceiling, scale.maximum)
    return scale.decibels(high) - scale.decibels(low)
