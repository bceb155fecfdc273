"""One unit's settings in another unit's numbers: the same picture on both, as nearly as the second can."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..acoustics.sonar_equation import max_ping_rate
from ..checks import InputError
from ..gear.lures import Lure
from ..gear.settings import Settings, picture_rate, starting_settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar import picture, receiver, transmission
from ..tuning import gain_window
from ..tuning.situation import situation_at
from ..wording import Quantity, Sentence
from .figures import seen_across


@dataclass(frozen=True)
class Translated:
    """Settings on another unit that give an equal picture, and what cannot be matched, in words."""

    settings: Settings
    matched: tuple[Sentence, ...]
    unmatched: tuple[Sentence, ...]


def translate(
    scene: Scene, lure: Lure, lure_depth_m: float, mine: UnitProfile, now: Settings, other: UnitProfile
) -> Translated:
    """What `mine` set to `now` shows of the lure, on `other`: same colour, window and seen zone, as near as may be.

    Raises ValueError for settings that `mine` does not have, or a hole deeper than `other` reaches.
    """
    now = now.checked(mine)
    if scene.bottom_range_m > other.ranges_m[-1]:
        raise InputError(
            f"bottom_depth_m is {scene.bottom_depth_m:g} m: the largest range of the {other.name} is "
            f"{other.ranges_m[-1]:g} m"
        )
    matched: list[Sentence] = []
    unmatched: list[Sentence] = []
    seen = _seen(scene, mine, now, lure, lure_depth_m)
    to = replace(starting_settings(other, scene.bottom_range_m), power=_loudest(other))
    to = _window_like(scene, now, other, to, matched, unmatched)
    to = replace(to, **_steps_like(mine, now, other, unmatched))  # type: ignore[arg-type]
    # For each beam the gain that gives the lure's colour; of those, the beam whose zone is most alike.
    over = _over(scene, mine, now, lure, lure_depth_m) / mine.colour_step_db
    tried = []
    for i in range(len(other.beams)):
        with_beam = replace(to, beam=i)
        zero = _over(scene, other, replace(with_beam, gain=other.gain.minimum), lure, lure_depth_m)
        gain = other.gain.position(over * other.colour_step_db - zero)
        steps = round((gain - other.gain.minimum) / other.gain.step)
        gain = float(np.clip(other.gain.minimum + steps * other.gain.step, other.gain.minimum, other.gain.maximum))
        set_so = replace(with_beam, gain=gain)
        width = max(_seen(scene, other, set_so, lure, lure_depth_m), 0.05)
        tried.append((abs(np.log(width / max(seen, 0.05))), set_so))
    to = min(tried, key=lambda one: one[0])[1].checked(other)
    left = over - _over(scene, other, to, lure, lure_depth_m) / other.colour_step_db
    if abs(left) <= 0.5:
        matched.append(Sentence("The lure paints the same colour."))
    else:
        values = {"by": Quantity(abs(left), "count")}
        short = "weaker" if left > 0 else "stronger"
        unmatched.append(Sentence(f"The lure paints {{by}} colours {short}: the knob ends there.", values))
    theirs = _seen(scene, other, to, lure, lure_depth_m)
    values = {"mine": Quantity(seen, "m"), "theirs": Quantity(theirs, "m")}
    if abs(theirs - seen) <= max(0.15 * seen, 0.1):
        matched.append(Sentence("The lure is seen over the same width, {theirs}.", values))
    else:
        unmatched.append(Sentence("The lure is seen over {theirs} instead of {mine}: the beams differ.", values))
    _lag_like(scene, mine, now, other, to, unmatched)
    return Translated(to, tuple(matched), tuple(unmatched))


def _loudest(unit: UnitProfile) -> int:
    return max(range(len(unit.powers_w)), key=lambda i: unit.powers_w[i])


def _over(scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, depth_m: float) -> float:
    """How far [dB] the lure's mark lies above the six-step ladder's first colour, so that ladders can differ."""
    t = transmission.transmit(scene, unit, settings)
    zero = unit.gain.first_colour_at(settings.gain)
    return gain_window.lure_level(t, unit, settings, lure, depth_m) - zero


def _seen(scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, depth_m: float) -> float:
    """Diameter [m] of the zone in which the lure is seen, as the card has it."""
    s = situation_at(scene, unit, settings, lure, depth_m)
    return seen_across(s, lure.target_strength(s.transmission.frequency_hz, s.transmission.sound_speed_m_s), depth_m)


def _window_like(
    scene: Scene, now: Settings, other: UnitProfile, to: Settings, matched: list[Sentence], unmatched: list[Sentence]
) -> Settings:
    """The window nearest in height of the same kind; said when there is none within a quarter."""
    height = now.bottom_window_m or now.free_window_m
    if height == 0.0:
        matched.append(Sentence("The full column, on the smallest range that holds the bottom."))
        return to
    names = ("bottom_window_m", "free_window_m") if now.bottom_window_m else ("free_window_m", "bottom_window_m")
    for name in names:
        heights = other.bottom_windows_m if name == "bottom_window_m" else other.free_windows_m
        near = min(heights, key=lambda h: abs(np.log(h / height)), default=None)
        if near is None:
            continue
        values = {"height": Quantity(near, "m"), "wanted": Quantity(height, "m")}
        same = name == names[0] and abs(near - height) < 0.25 * height
        said = "The window, {height}." if same else "The nearest window is {height} instead of {wanted}."
        (matched if same else unmatched).append(Sentence(said, values))
        top = now.free_window_top_m
        if name == "free_window_m" and now.bottom_window_m:
            top = picture.window(now, scene.bottom_range_m).top_m
        if name == "bottom_window_m":
            return replace(to, bottom_window_m=near)
        return replace(to, free_window_m=near, free_window_top_m=round(top, 2))
    unmatched.append(Sentence("It has no window: the full column is all there is."))
    return to


def _steps_like(mine: UnitProfile, now: Settings, other: UnitProfile, unmatched: list[Sentence]) -> dict[str, int]:
    """For each knob that is a list, the position that does most nearly the same."""
    out = {}
    wanted = {
        "pulse": (mine.pulses[now.pulse].duration_s, [one.duration_s for one in other.pulses], "pulse"),
        "tvg": (mine.tvg_db_decade[now.tvg], list(other.tvg_db_decade), "time-varied gain"),
        "blanking": (mine.blanking_m[now.blanking], list(other.blanking_m), "surface blanking"),
        "noise_filter": (float(mine.noise_filters[now.noise_filter]), [float(n) for n in other.noise_filters],
                         "noise filter"),
        "rejection": (float(mine.rejections[now.rejection].pings), [float(one.pings) for one in other.rejections],
                      "interference rejection"),
        "ladder": (mine.ladders[now.ladder].first_begins, [one.first_begins for one in other.ladders], "ladder"),
    }  # fmt: skip
    for name, (value, choices, words) in wanted.items():
        at = min(range(len(choices)), key=lambda i: abs(choices[i] - value))
        out[name] = at
        if len(choices) == 1 and abs(choices[0] - value) > 0.3 * max(abs(value), 1e-9):
            unmatched.append(Sentence(f"It has no {words} to turn."))
    return out


def _lag_like(
    scene: Scene, mine: UnitProfile, now: Settings, other: UnitProfile, to: Settings, unmatched: list[Sentence]
) -> None:
    lags = []
    for unit, settings in ((mine, now), (other, to)):
        t = transmission.transmit(scene, unit, settings)
        rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, t.sound_speed_m_s))
        lags.append(receiver.lag(unit, settings, rate))
    if abs(lags[1] - lags[0]) > 0.15:
        values = {"mine": Quantity(lags[0], "s"), "theirs": Quantity(lags[1], "s")}
        unmatched.append(Sentence("The picture lags by {theirs} instead of {mine}.", values))
