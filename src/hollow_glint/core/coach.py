"""The coach: what is wrong with how the sonar hangs and how it is set, worst first, one change each.

Each verdict is a finding with its number, the reason, and one change that settles it. They are written in working
order: how it hangs, range, company, weeds, the window, the lure, the water, the top, the bottom, the small things.
All thresholds without a source named are common practice or ours; they are here to be argued with.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from . import beam, picture, ping, receiver, tuning
from . import unit as units
from .lures import Lure
from .ping import Transmission
from .said import Change, Quantity
from .scene import Scene
from .sonar_equation import max_ping_rate
from .targets import fish_target_strength
from .tuning import GainWindow
from .unit import Settings, UnitProfile

PLUMB_DEG = 2.0  # nobody hangs it straighter by eye
WIDE_CONE_M = 4.0  # at the bottom; a fish at its edge cannot see the lure
NEIGHBOUR_SHARE = 0.002  # share of picture cells that neighbours may light
WEEDS_OVER_FISH_DB = -12.0  # weeds as loud as this against a fish of 30 cm hide it
TOP_LIT_SHARE = 0.12  # share of cells in the top of the column that may light
TOP_M = (0.5, 2.5)  # below the face: past the ringing, down to where near water is no longer near


@dataclass(frozen=True)
class Verdict:
    """One finding. `{names}` in the two sentences stand for `values`, written out at the face.

    severity   larger is worse; the coach speaks of the worst alone
    """

    code: str
    severity: float
    finding: str
    reason: str
    values: dict[str, Quantity] = field(default_factory=dict)
    change: Change | None = None


@dataclass(frozen=True)
class Situation:
    """Everything the coach looks at: the scene, the unit as it is set, the lure, and what the unit is locked on.

    shown    the main picture's window; zoom the magnified one, the same where none is asked for
    lock_m   range at which automatic range takes the bottom to be [m], None when it is not on or has none
    """

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    lure_depth_m: float
    shown: picture.Window
    zoom: picture.Window
    lock_m: float | None = None

    @cached_property
    def transmission(self) -> Transmission:
        """The still part of a ping as things stand."""
        return ping.transmit(self.scene, self.unit, self.settings)

    @cached_property
    def limits(self) -> GainWindow:
        """The gain window as things stand."""
        return self._window(self.settings)

    def _window(self, settings: Settings) -> GainWindow:
        t = ping.transmit(self.scene, self.unit, settings)
        return tuning.gain_window(t, self.unit, settings, self.lure, self.lure_depth_m, self.shown)

    def window_with(self, **change: int) -> GainWindow:
        """The gain window with one or more knobs turned."""
        return self._window(replace(self.settings, **change))  # type: ignore[arg-type]

    @property
    def lure_down(self) -> bool:
        """Whether the lure hangs below the face at all."""
        return self.lure_depth_m > self.scene.face_depth_m + 0.05

    def first_colour(self, settings: Settings | None = None) -> float:
        """Echo level [dB] that lights the weakest step."""
        return receiver.first_colour_level(self.unit, settings or self.settings)


def verdicts(situation: Situation) -> tuple[Verdict, ...]:
    """What is wrong, worst first; empty when there is nothing to change."""
    found = [rule(situation) for rule in RULES]
    return tuple(sorted((v for v in found if v is not None), key=lambda v: -v.severity))


# --- how it hangs ---------------------------------------------------------------------------------------------------


def _inside_the_ice(s: Situation) -> Verdict | None:
    deep = s.scene.inside_ice_m
    if deep <= 0.0:
        return None
    clear = min(max(s.scene.ice_thickness_m, s.scene.slush_m) + 0.05, s.scene.bottom_depth_m - 0.25)
    if clear <= s.scene.face_depth_m:
        return None
    return Verdict(
        "inside the ice",
        6.0,
        "The transducer hangs {deep} up inside the hole. Lower it to {clear}.",
        "The ice round it throws its own sound back, and what leaves the hole is cut to a narrow cone.",
        {"deep": Quantity(deep, "m"), "clear": Quantity(clear, "m")},
        Change("face_depth_m", round(clear, 3)),
    )


def _dry_face(s: Situation) -> Verdict | None:
    if s.scene.face_wet:
        return None
    return Verdict(
        "dry face",
        5.5,
        "The transducer's face is dry: every echo is {loss} too weak. Rub it wet.",
        "A film of air clings to a dry face and shuts sound out and in.",
        {"loss": Quantity(2.0 * ping.DRY_FACE_DB, "dB")},
        Change("face_wet", True),
    )


def _off_plumb(s: Situation) -> Verdict | None:
    tilt = s.scene.tilt_deg
    if tilt <= PLUMB_DEG:
        return None
    below = max(s.lure_depth_m - s.scene.face_depth_m, 1.0)
    loss = -2.0 * float(beam.directivity(np.radians(tilt), s.transmission.ka))
    return Verdict(
        "off plumb",
        5.0,
        "The transducer hangs {tilt} off plumb: it looks {aside} past your lure. Let it hang straight.",
        "The bottom still shows, for it is everywhere; what hangs under the hole loses {loss}.",
        {
            "tilt": Quantity(tilt, "degrees"),
            "aside": Quantity(below * float(np.tan(np.radians(tilt))), "m"),
            "loss": Quantity(loss, "dB"),
        },
        Change("tilt_deg", 0.0),
    )


def _swinging(s: Situation) -> Verdict | None:
    if s.scene.on_float:
        return None
    return Verdict(
        "swinging",
        4.8,
        "The transducer swings on its cable, {sway} to either side. Hang it on its float.",
        "As the beam sways, the marks of lure and fish come and go though neither moves.",
        {"sway": Quantity(SWAY_DEG, "degrees")},
        Change("on_float", True),
    )


SWAY_DEG = 4.0  # how far a transducer without its float swings. Common practice, no source


# --- range ----------------------------------------------------------------------------------------------------------


def _second_echo_lock(s: Situation) -> Verdict | None:
    if not s.settings.auto_range or s.lock_m is None:
        return None
    second = ping.second_echo_range(s.scene)
    if abs(s.lock_m - second) > 0.15 * s.scene.bottom_range_m:
        return None
    return Verdict(
        "locked on a second echo",
        4.5,
        "Automatic range has locked on a second echo at {lock}. Make it look again.",
        "That sound went down, up to the ice and down once more. The bottom itself is at {bottom}.",
        {"lock": Quantity(s.lock_m, "m"), "bottom": Quantity(s.scene.bottom_range_m, "m")},
        Change("kick", True),
    )


def _range(s: Situation) -> Verdict | None:
    """The range is not the smallest that holds the bottom."""
    fits = units.smallest_range(s.unit, s.scene.bottom_range_m)
    if s.settings.auto_range or abs(s.settings.range_m - fits) < 1e-3:
        return None
    values = {
        "range": Quantity(s.settings.range_m, "m"),
        "fits": Quantity(fits, "m"),
        "bottom": Quantity(s.scene.bottom_range_m, "m"),
        "row": Quantity(s.settings.range_m / s.unit.rows, "m"),
        "row_then": Quantity(fits / s.unit.rows, "m"),
    }
    if s.settings.range_m < fits:
        if s.unit.free_range and s.settings.range_m > s.scene.bottom_range_m + 0.15:
            return None  # set by hand to just under the bottom: the bottom is in the picture
        return Verdict(
            "range too small",
            4.0,
            "The range stops at {range}, and the bottom is at {bottom}. Take {fits}.",
            "Without the bottom and a little below it in the picture you cannot tell where the lure is in the column.",
            values,
            Change("range_m", fits),
        )
    if s.unit.free_range and s.settings.range_m < 1.15 * fits:
        return None  # a hand on a free knob need not be exact
    return Verdict(
        "range larger than needed",
        0.5,
        "The range is {range}; {fits} still holds the bottom at {bottom}.",
        "One picture row now stands for {row} of water. At the smaller range it is {row_then}, so marks are taller.",
        values,
        Change("range_m", fits),
    )


# --- company --------------------------------------------------------------------------------------------------------


def neighbour_share(s: Situation, settings: Settings) -> float:
    """Share of picture cells that neighbours' pings light at `settings`, past what rejection drops.

    A path lights its pulse, skirt and all, once in each of its intervals. Two pings in a row show it at one place only
    if its drift and our stagger both move it by less than its own mark.
    """
    t = ping.transmit(s.scene, s.unit, settings)
    step = s.unit.rejections[settings.rejection]
    most = max_ping_rate(settings.range_m, t.sound_speed_m_s)
    ours_s = 1.0 / units.picture_rate(s.unit, settings, most)
    half_c = 0.5 * t.sound_speed_m_s
    threshold = s.first_colour(settings) + receiver.taken_off(s.unit, settings, t.bin_range_m)
    dark = 1.0
    for path in t.paths:
        excess = 10.0 * np.log10(path.intensity) - threshold
        mark_m = t.resolution_m * (0.9 + np.maximum(excess, 0.0) / ping.SKIRT_DB_PER_PULSE)
        drift_s = (ours_s + 0.5 * path.interval_s) % path.interval_s - 0.5 * path.interval_s
        moved_m = half_c * max(abs(drift_s), step.stagger * ours_s)
        hit = np.where(excess > 0.0, mark_m / (half_c * path.interval_s), 0.0)
        kept = np.where(moved_m > mark_m, receiver.kept_chance(hit, s.unit, settings), hit)
        dark *= 1.0 - float(np.mean(kept))
    return 1.0 - dark


def _enough_rejection(s: Situation) -> int | None:
    """The lowest step that keeps the neighbours out, or None if none does."""
    for step in range(len(s.unit.rejections)):
        if neighbour_share(s, replace(s.settings, rejection=step)) <= NEIGHBOUR_SHARE:
            return step
    return None


def _lag_quantity(s: Situation, step: int) -> Quantity:
    settings = replace(s.settings, rejection=step)
    rate = units.picture_rate(s.unit, settings, max_ping_rate(settings.range_m, s.transmission.sound_speed_m_s))
    return Quantity(receiver.lag(s.unit, settings, rate), "s")


def _rejection(s: Situation) -> Verdict | None:
    now = s.settings.rejection
    enough = _enough_rejection(s)
    top = len(s.unit.rejections) - 1
    if now < (top if enough is None else enough):
        to = top if enough is None else enough
        return Verdict(
            "rejection too low",
            3.6,
            "A neighbour's pings light {share} of the picture. Turn interference rejection from {now} to {to}.",
            "Their marks drift; yours stay. Keeping only what repeats drops theirs and costs {lag} of delay.",
            {
                "share": Quantity(100.0 * neighbour_share(s, s.settings), "percent"),
                "now": Quantity(now, "count"),
                "to": Quantity(to, "count"),
                "lag": _lag_quantity(s, to),
            },
            Change("rejection", to),
        )
    if enough is not None and now > enough:
        return Verdict(
            "rejection higher than needed",
            0.6,
            "Interference rejection {now} makes the picture lag by {lag}. {to} is enough here.",
            "It waits to see a mark again before it shows it. Lower, the lag is {lag_then} and a moving lure is crisp.",
            {
                "now": Quantity(now, "count"),
                "to": Quantity(enough, "count"),
                "lag": _lag_quantity(s, now),
                "lag_then": _lag_quantity(s, enough),
            },
            Change("rejection", enough),
        )
    return None


def _beam_too_wide(s: Situation) -> Verdict | None:
    used = s.unit.beams[s.settings.beam]
    width = beam.footprint_diameter(s.scene.bottom_range_m, used.width_deg)
    narrower = [i for i, one in enumerate(s.unit.beams) if one.width_deg < 0.8 * used.width_deg]
    if not narrower:
        return None
    to = min(narrower, key=lambda i: s.unit.beams[i].width_deg)
    crowded = neighbour_share(s, s.settings) > NEIGHBOUR_SHARE and _enough_rejection(s) is None
    calmer = crowded and neighbour_share(s, replace(s.settings, beam=to)) < 0.7 * neighbour_share(s, s.settings)
    if width <= WIDE_CONE_M and not calmer:
        return None
    if s.lure_down and s.window_with(beam=to).width_db < min(s.limits.width_db, 0.0) - 3.0:
        return None  # the narrow beam would lose the lure: not here
    values = {
        "width": Quantity(width, "m"),
        "then": Quantity(beam.footprint_diameter(s.scene.bottom_range_m, s.unit.beams[to].width_deg), "m"),
        "share": Quantity(100.0 * neighbour_share(s, s.settings), "percent"),
    }
    if calmer:
        return Verdict(
            "beam too wide",
            3.4,
            "Neighbours still light {share} of the picture. The narrow beam looks less their way.",
            "What comes from a neighbour by way of the bottom comes in at a slant, where a narrow beam is deaf.",
            values,
            Change("beam", to),
        )
    return Verdict(
        "beam too wide",
        0.9,
        "The cone is {width} wide at the bottom. The narrow beam makes it {then}.",
        "Fish out at the edge look too deep and cannot see your lure; a narrow cone shows those that can.",
        values,
        Change("beam", to),
    )


# --- weeds and the window -------------------------------------------------------------------------------------------


def _weeds(s: Situation) -> Verdict | None:
    t, scene = s.transmission, s.scene
    if not t.weeds.any():
        return None
    strongest = int(np.argmax(t.weeds))
    weeds_db = 10.0 * np.log10(t.weeds[strongest])
    a_fish = ping.target_echo_level(
        t, float(fish_target_strength(0.3, t.frequency_hz)), scene.face_depth_m + float(t.bin_range_m[strongest])
    )
    if weeds_db < s.first_colour() or weeds_db - a_fish < WEEDS_OVER_FISH_DB:
        return None
    values = {
        "top": Quantity(scene.weed_top_m - scene.face_depth_m, "m"),
        "bottom": Quantity(scene.bottom_range_m, "m"),
        "over": Quantity(weeds_db - a_fish, "dB"),
    }
    pulses = [one.duration_s for one in s.unit.pulses]
    shortest = int(np.argmin(pulses))
    if pulses[shortest] < 0.9 * pulses[s.settings.pulse]:
        gained = 10.0 * np.log10(pulses[s.settings.pulse] / pulses[shortest])
        return Verdict(
            "weeds read as bottom",
            3.2,
            "What looks like bottom at {top} is the top of weeds; the bottom is at {bottom}. Take the shorter pulse.",
            "The short pulse fills less weed at once: the weeds weaken by {gained}, a fish among them does not.",
            values | {"gained": Quantity(float(gained), "dB")},
            Change("pulse", shortest),
        )
    lower = [i for i, power in enumerate(s.unit.powers_w) if power < s.unit.powers_w[s.settings.power]]
    to = max(lower, key=lambda i: s.unit.powers_w[i], default=s.settings.power)
    # Less power must leave gain enough to show the lure, or the next thing to say would be to take it back.
    if lower and (not s.lure_down or s.window_with(power=to).floor <= s.unit.gain.maximum):
        return Verdict(
            "weeds read as bottom",
            3.1,
            "What looks like bottom at {top} is the top of weeds; the bottom is at {bottom}. Take less power.",
            "With less power only the strong echoes are left, and a thick stand opens into stems.",
            values,
            Change("power", to),
        )
    return None


def _window_off_the_lure(s: Situation) -> Verdict | None:
    if not picture.zoomed(s.settings) or not s.lure_down:
        return None
    at = s.lure_depth_m - s.scene.face_depth_m
    if s.zoom.top_m <= at <= s.zoom.bottom_m or at > s.settings.range_m:
        return None
    values = {
        "depth": Quantity(s.lure_depth_m, "m"),
        "top": Quantity(s.zoom.top_m, "m"),
        "foot": Quantity(s.zoom.bottom_m, "m"),
    }
    if s.settings.free_window_m > 0.0:
        top = float(np.clip(at - 0.6 * s.zoom.height_m, 0.0, s.settings.range_m - s.zoom.height_m))
        change, do = Change("free_window_top_m", round(top, 2)), "Move it over the lure."
    else:
        change, do = Change("bottom_window_m", 0.0), "Go back to the full column."
        for height in sorted(s.unit.bottom_windows_m):
            shown = picture.window(replace(s.settings, bottom_window_m=height), s.scene.bottom_range_m)
            if shown.top_m < at - 0.1 and height < s.settings.range_m:
                change, do = Change("bottom_window_m", height), "Take a taller one."
                break
    return Verdict(
        "window not over the lure",
        2.8,
        "The window shows {top} to {foot}, and your lure hangs at {depth}. " + do,
        "A fish that comes to the lure would not be in the picture.",
        values,
        change,
    )


# --- the lure and the water -----------------------------------------------------------------------------------------


def _lure(s: Situation) -> Verdict | None:
    """The lure does not show, for want of gain or because a stronger echo covers it."""
    if not s.lure_down:
        return None  # not lowered yet: nothing to lose
    limits, scale = s.limits, s.unit.gain
    depth = Quantity(s.lure_depth_m, "m")
    at = s.lure_depth_m - s.scene.face_depth_m
    if at < s.unit.blanking_m[s.settings.blanking]:
        return Verdict(
            "lure lost",
            3.0,
            "Your lure at {depth} is in the water that blanking hides. Turn blanking off.",
            "Blanking takes everything above {blanked} out of the picture, fish and lure too.",
            {"depth": depth, "blanked": Quantity(s.unit.blanking_m[s.settings.blanking], "m")},
            Change("blanking", 0),
        )
    if limits.buried:
        if s.scene.weed_top_m < s.lure_depth_m < s.scene.bottom_depth_m - 0.3:
            where, why = "the weeds", "They answer louder than the lure, so no gain can part them. Lift it above them."
        elif s.lure_depth_m > s.scene.bottom_depth_m - 1.0:
            where = "the bottom echo"
            why = "The bottom answers louder than the lure, so no gain can part them. Lift it a little."
        else:
            where = "the ringing under the transducer"
            why = "The transducer still rings from its own pulse up there. Lower the lure below it."
        return Verdict("lure buried", 2.5, "Your lure at {depth} is inside " + where + ".", why, {"depth": depth})
    if s.settings.gain >= limits.floor:
        return None
    short_db = scale.decibels(limits.floor) - scale.decibels(s.settings.gain)
    needed = scale.minimum + np.ceil((limits.floor - scale.minimum) / scale.step - 1e-9) * scale.step
    values = {
        "depth": depth,
        "needed": Quantity(float(needed), "gain"),
        "gain": Quantity(s.settings.gain, "gain"),
        "short": Quantity(short_db, "dB"),
    }
    if needed > scale.maximum:
        louder = [i for i, power in enumerate(s.unit.powers_w) if power > s.unit.powers_w[s.settings.power]]
        finding = "Your lure is lost at {depth}, and gain alone cannot show it."
        if louder:
            to = max(louder, key=lambda i: s.unit.powers_w[i])
            more = 10.0 * np.log10(s.unit.powers_w[to] / s.unit.powers_w[s.settings.power])
            values["more"] = Quantity(float(more), "dB")
            reason = "It would need gain {needed}. More power puts {more} into the water."
            return Verdict("lure lost", 3.0, finding + " Take more power.", reason, values, Change("power", to))
        return Verdict(
            "lure lost",
            3.0,
            finding,
            "It would need gain {needed}, more than this unit has. A larger lure is what helps.",
            values,
        )
    return Verdict(
        "lure lost",
        3.0 + min(short_db, 40.0) / 100.0,
        "Your lure is lost at {depth}. It needs gain {needed} or more; you are at {gain}.",
        "Its echo is {short} too weak to light the first colour in nearly every ping.",
        values,
        Change("gain", limits.advised),
    )


def _plankton_rules(s: Situation) -> bool:
    """Whether plankton makes up most of what lights the open water."""
    depth = s.scene.face_depth_m + s.transmission.bin_range_m
    share = 1.0 - s.scene.volume_scattering(np.array([0.0]))[0] / np.maximum(s.scene.volume_scattering(depth), 1e-12)
    layered = s.scene.plankton != "none" and float(share[depth < s.scene.bottom_depth_m].max(initial=0.0)) > 0.5
    return layered or s.scene.clarity == "plankton"


def _water(s: Situation) -> Verdict | None:
    """Open water lights up: name what lights it, and what is the least that clears it."""
    limits = s.limits
    if s.settings.gain <= limits.ceiling:
        return None
    t = s.transmission
    share = 100.0 * tuning.lit_share(t, s.unit, s.settings, s.shown, s.first_colour())
    values = {
        "share": Quantity(share, "percent"),
        "ceiling": Quantity(limits.ceiling, "gain"),
        "gain": Quantity(s.settings.gain, "gain"),
    }
    closed = bool(np.isfinite(limits.floor) and limits.width_db < 0.0)
    if closed:
        values |= {"floor": Quantity(limits.floor, "gain"), "closed": Quantity(-limits.width_db, "dB")}
    helped = _opens_the_window(s) if closed or s.settings.gain <= limits.advised else None
    if helped is not None:
        return helped
    if s.settings.gain <= limits.advised:
        # Gain cannot mend it: less would lose the lure, or there is no less.
        hidden = _hide_the_weakest(s, values)
        if hidden is not None:
            return hidden
        return Verdict(
            "window closed",
            0.4,
            "No gain shows this lure in quiet water: the window is closed by {closed}."
            if closed
            else "The water lights at {ceiling}, and gain {gain} is the least that will do here.",
            "The water lights at {ceiling} and the lure needs {floor}. A larger lure or a lesser depth opens it."
            if closed
            else "The window is narrower than one step of the knob, or lies below its end.",
            values,
        )
    change = Change("gain", limits.advised)
    if _plankton_rules(s):
        return Verdict(
            "night plankton",
            2.1,
            "Plankton lights {share} of the water. Its ceiling is {ceiling}; you are at {gain}.",
            "They rise at dusk and answer everywhere at once. Lower gain until they go; the lure still shows."
            if not closed
            else "The window is closed by {closed} here, so take the least gain that still shows the lure.",
            values,
            change,
        )
    if closed:
        return Verdict(
            "water too bright",
            2.0,
            "The water is too bright: {share} of it lights up. The lure needs {floor} and no more.",
            "The window is closed by {closed} here, so take the least gain that still shows the lure.",
            values,
            change,
        )
    return Verdict(
        "water too bright",
        2.0,
        "The water is too bright: {share} of it lights up. The ceiling is {ceiling}; you are at {gain}.",
        "Every speck in the water now reaches the first colour, and a fish can hide among them.",
        values,
        change,
    )


def _hide_the_weakest(s: Situation, values: dict[str, Quantity]) -> Verdict | None:
    """In plankton with no gain left to take: a ladder without its weakest step, if the lure is strong enough for it."""
    ladders = s.unit.ladders
    now = ladders[s.settings.ladder].first_begins
    higher = [i for i, one in enumerate(ladders) if one.first_begins > now]
    if not higher or not _plankton_rules(s) or not np.isfinite(s.limits.floor):
        return None
    to = min(higher, key=lambda i: ladders[i].first_begins)
    then = s.window_with(ladder=to)
    if s.settings.gain < then.floor:
        return None
    return Verdict(
        "night plankton",
        2.1,
        "Plankton lights {share} of the water at the least gain there is. Hide the weakest colour.",
        "What is left is what answers louder than plankton. The price is the smallest lures and fish.",
        values,
        Change("ladder", to),
    )


def _opens_the_window(s: Situation) -> Verdict | None:
    """With the window closed: time-varied gain, a shorter pulse or a narrower beam that opens it by 1.5 dB or more."""
    if not np.isfinite(s.limits.floor):
        return None
    settings, unit = s.settings, s.unit
    tried: list[tuple[str, int, str, str]] = []
    tvg = unit.tvg_db_decade
    more = [i for i in range(len(tvg)) if tvg[i] > tvg[settings.tvg]]
    if more:
        do = "Turn time-varied gain up: near water answers loudest and lights before the lure shows."
        tried.append(("tvg", min(more, key=lambda i: tvg[i]), "top-water noise", do))
    pulses = [one.duration_s for one in unit.pulses]
    shorter = [i for i, one in enumerate(pulses) if one < 0.9 * pulses[settings.pulse]]
    if shorter:
        do = "Take the shorter pulse: it fills less water at once, and the lure loses nothing."
        tried.append(("pulse", min(shorter, key=lambda i: pulses[i]), "window closed", do))
    narrow = [i for i, one in enumerate(unit.beams) if one.width_deg < 0.9 * unit.beams[settings.beam].width_deg]
    if narrow:
        do = "Take the narrow beam: it takes in less water round the lure."
        tried.append(("beam", min(narrow, key=lambda i: unit.beams[i].width_deg), "window closed", do))
    best: tuple[float, Verdict] | None = None
    for setting, to, code, do in tried:
        gained = s.window_with(**{setting: to}).width_db - s.limits.width_db
        if gained >= 1.5 and (best is None or gained > best[0]):
            values = {"closed": Quantity(-s.limits.width_db, "dB"), "gained": Quantity(float(gained), "dB")}
            finding = (
                "No gain shows this lure in quiet water: the window is closed by {closed}."
                if s.limits.width_db < 0.0
                else "The window is narrower than one step of the knob."
            )
            best = gained, Verdict(code, 2.3, finding, do + " That opens it by {gained}.", values, Change(setting, to))
    return None if best is None else best[1]


def _top_water(s: Situation) -> Verdict | None:
    """The top of the column is lit by the walls or by near water while the rest is quiet."""
    t = s.transmission
    column = s.scene.bottom_range_m
    rows = picture.row_range(s.unit, picture.full_column(s.settings))
    top = (rows > TOP_M[0]) & (rows < min(TOP_M[1], 0.5 * column))
    if not top.any() or s.scene.inside_ice_m > 0.0:
        return None
    echo = t.open_water + t.clutter
    lit = tuning.lit_rows(t, s.unit, s.settings, picture.full_column(s.settings), s.first_colour(), echo)
    share = float(lit[top].mean())
    if share < TOP_LIT_SHARE:
        return None
    values = {"share": Quantity(100.0 * share, "percent"), "to": Quantity(min(TOP_M[1], 0.5 * column), "m")}
    tvg = s.unit.tvg_db_decade
    more = [i for i in range(len(tvg)) if tvg[i] > tvg[s.settings.tvg]]
    if more:
        to = min(more, key=lambda i: tvg[i])
        if not s.lure_down or s.settings.gain >= s.window_with(tvg=to).floor or np.isinf(s.limits.floor):
            return Verdict(
                "top-water noise",
                1.6,
                "The top {to} of water is {share} lit. Turn time-varied gain up a step.",
                "Near water answers loudest. Time-varied gain turns it down there and leaves deep fish as they are.",
                values,
                Change("tvg", to),
            )
    blank = [i for i, m in enumerate(s.unit.blanking_m) if m > s.unit.blanking_m[s.settings.blanking]]
    blank = [i for i in blank if s.unit.blanking_m[i] < s.lure_depth_m - s.scene.face_depth_m - 0.3]
    if blank:
        to = min(blank, key=lambda i: s.unit.blanking_m[i])
        return Verdict(
            "top-water noise",
            1.5,
            "The top {to} of water is {share} lit. Blank the top {blanked}.",
            "It takes the clutter out, and with it every fish in the top {blanked}. Turn it off when one comes high.",
            values | {"blanked": Quantity(s.unit.blanking_m[to], "m")},
            Change("blanking", to),
        )
    return None


def _weak_bottom(s: Situation) -> Verdict | None:
    """The bottom does not reach the strongest colour, though gain in the window could bring it there."""
    t = s.transmission
    near = np.abs(t.bin_range_m - s.scene.bottom_range_m) < max(0.5, 4.0 * t.resolution_m)
    if not near.any() or not np.isfinite(s.limits.floor) or s.settings.gain < s.limits.floor:
        return None
    loudest = 10.0 * np.log10((t.diffuse + t.steady)[near].max())
    steps = s.unit.ladders[s.settings.ladder].steps
    top_db = (steps[-1].begins - steps[0].begins) * s.unit.colour_step_db
    off = float(receiver.taken_off(s.unit, s.settings, np.array([s.scene.bottom_range_m]))[0])
    short = s.first_colour() + top_db + off - loudest
    if short <= 0.0:
        return None
    scale = s.unit.gain
    wanted = scale.position(scale.decibels(s.settings.gain) + float(short))
    needed = scale.minimum + float(np.ceil((wanted - scale.minimum) / scale.step - 1e-9)) * scale.step
    if needed > min(s.limits.ceiling, scale.maximum):
        return None
    return Verdict(
        "weak bottom",
        1.2,
        "The bottom is {short} short of the strongest colour, {top}. Gain {needed} brings it there.",
        "A bottom in full colour is the yardstick: against it you tell soft from hard, and fish from bottom.",
        {
            "short": Quantity(float(short), "dB"),
            "top": Quantity(len(steps), "step"),
            "needed": Quantity(needed, "gain"),
        },
        Change("gain", needed),
    )


RULES: tuple[Callable[[Situation], Verdict | None], ...] = (
    _inside_the_ice,
    _dry_face,
    _off_plumb,
    _swinging,
    _second_echo_lock,
    _range,
    _rejection,
    _beam_too_wide,
    _weeds,
    _window_off_the_lure,
    _lure,
    _water,
    _top_water,
    _weak_bottom,
)
