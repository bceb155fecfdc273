"""The fan's coach: what is wrong with how it hangs, is aimed and is set, worst first, one change each.

Thresholds without a source named are common practice or ours; they are here to be argued with.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, replace
from typing import Any, Final

import numpy as np

from ..checks import InputError
from ..search.sweep import FIRST_DB
from ..tuning.verdict import Verdict
from ..wording import Change, Quantity
from .frame import frame_time
from .head import FanHang
from .picture import CLUTTER_DB, STEPS, TAIL_DB_S
from .settings import FanSettings
from .situation import REACH_M, FanSituation
from .window import beam_loss_db, damped_db, fish_strength_db, repeats_gain, shown_db

Rule = Callable[[FanSituation], Verdict | None]
RULES: Final[dict[str, Rule]] = {}
LEVEL_DEG: Final = 2.0
LEAN_DEG: Final = 4.0
IN_LINE_DEG: Final = 3.0
WEAK_DB: Final = -3.5  # a strip begins where a lure has lost so much to the angle
TRACE_DB: Final = 1.0


def rule(code: str) -> Callable[[Rule], Rule]:
    """Mark a function as one of the coach's rules, by its code."""

    def marked(judge: Rule) -> Rule:
        RULES[code] = judge
        return judge

    return marked


def with_change(hang: FanHang, settings: FanSettings, change: Change) -> tuple[FanHang, FanSettings]:
    """The hang and the settings after a change. Raises ValueError for a setting that is not theirs."""
    if change.setting == "looks_down":
        return replace(hang, mounting="down"), settings
    if change.setting in {field.name for field in fields(hang)}:
        moved: dict[str, Any] = {change.setting: float(change.value)}
        return replace(hang, **moved), settings
    if change.setting in {field.name for field in fields(settings)}:
        usual = getattr(settings, change.setting)
        value: Any = round(change.value) if type(usual) is int else type(usual)(change.value)
        return hang, replace(settings, **{change.setting: value})
    raise InputError(f"setting is {change.setting!r}: accepted is a field of how a fan hangs or is set")


def fan_verdicts(s: FanSituation) -> tuple[Verdict, ...]:
    """What is wrong, worst first; empty when there is nothing to change."""
    found = [judge(s) for judge in RULES.values()]
    return tuple(sorted((one for one in found if one is not None), key=lambda one: (-one.severity, one.code)))


@rule("head inside the ice")
def _inside_ice(s: FanSituation) -> Verdict | None:
    deep = s.hang.inside_ice_m
    if deep <= 0.0:
        return None
    return Verdict(
        "head inside the ice", 100.0, "The head is {deep} up in the ice: let it down.",
        "It looks out of the hole's foot only; the wall of the hole answers in all other beams.",
        {"deep": Quantity(deep, "m")}, Change("depth_m", round(s.hang.ice_m + 0.3, 2)),
    )  # fmt: skip


@rule("head not level")
def _not_level(s: FanSituation) -> Verdict | None:
    up, lean = s.hang.nose_up_deg, s.hang.roll_deg
    if abs(lean) > LEAN_DEG and abs(lean) >= abs(up):
        off = s.sought.away_m * float(np.sin(np.radians(abs(lean))))
        return Verdict(
            "head not level", 60.0 + abs(lean), "The head leans over by {lean}: hang it plumb.",
            "No setting mends a lean: the plane passes {off} beside what is straight below it at such a depth.",
            {"lean": Quantity(abs(lean), "degrees"), "off": Quantity(off, "m")}, Change("roll_deg", 0.0),
        )  # fmt: skip
    if abs(up) <= LEVEL_DEG or s.settings.levelling:
        return None
    wrong = s.sought.away_m * float(np.sin(np.radians(abs(up))))
    word = "high" if up > 0.0 else "low"
    return Verdict(
        "head not level", 55.0 + abs(up), f"The head looks {{up}} too {word}: hang it level or turn levelling on.",
        "At {away} a fish is drawn {wrong} from where it is.",
        {"up": Quantity(abs(up), "degrees"), "away": Quantity(s.sought.away_m, "m"), "wrong": Quantity(wrong, "m")},
        Change("levelling", True),
    )  # fmt: skip


@rule("handle out of line")
def _out_of_line(s: FanSituation) -> Verdict | None:
    off = s.hang.off_deg
    if abs(off) <= IN_LINE_DEG or not s.head.has("heading"):
        return None
    beside = s.sought.away_m * float(np.sin(np.radians(min(abs(off), 90.0))))
    side = "right" if off > 0.0 else "left"
    return Verdict(
        "handle out of line", 50.0 + min(abs(off), 40.0) / 2.0,
        f"The head looks {{off}} to the {side} of where the handle points: bring them into line.",
        "Walk {away} the way of the handle and you drill {beside} beside the fish.",
        {"off": Quantity(abs(off), "degrees"), "away": Quantity(s.sought.away_m, "m"), "beside": Quantity(beside, "m")},
        Change("off_deg", 0.0),
    )  # fmt: skip


@rule("lure in a weak strip")
def _weak_strip(s: FanSituation) -> Verdict | None:
    if s.job != "fish":
        return None
    loss, _, angle = s.lure_seen
    strip = min((abs(angle - seam) for seam in s.head.seams_deg), default=180.0)
    if loss > WEAK_DB or strip > 8.0 or s.settings.gain_db >= s.window.lure_floor:
        return None
    values = {"loss": Quantity(-loss, "dB")}
    why = "There two sub-arrays meet, and neither hears well so far from its own normal: it costs {loss}."
    turn, depth = turn_out_of_strip(s), depth_out_of_strip(s)
    if turn is not None:
        values["turn"] = Quantity(abs(turn), "degrees")
        side = "right" if turn > 0.0 else "left"
        found = f"Your lure is in a weak strip: turn the handle {{turn}} to the {side}."
        change = Change("aim_deg", (s.hang.aim_deg + turn) % 360.0)
    elif s.hang.mounting == "ahead":
        found, change = "Your lure is in a weak strip: turn the head to look down.", Change("looks_down", True)
    elif depth is not None:
        values["depth"] = Quantity(depth, "m")
        found, change = "Your lure is in a weak strip: hang the head at {depth}.", Change("depth_m", depth)
    else:
        return None
    return Verdict("lure in a weak strip", 45.0, found, why, values, change)


def turn_out_of_strip(s: FanSituation) -> float | None:
    """The smallest turn of the handle [degrees] after which the lure is heard well enough; None where none helps."""
    ahead, aside, deep = s.lure_place()
    for turn in np.arange(5.0, 181.0, 5.0):
        for way in (float(turn), -float(turn)):
            a = np.radians(way)
            place = (ahead * np.cos(a) + aside * np.sin(a), aside * np.cos(a) - ahead * np.sin(a), deep)
            if _heard_there(s, s.hang, place):
                return way
    return None


def depth_out_of_strip(s: FanSituation) -> float | None:
    """The nearest depth of the head [m] from which the lure is heard well enough; None within three metres."""
    for step in np.arange(0.25, 3.01, 0.25):
        for depth in (round(s.hang.depth_m + float(step), 2), round(s.hang.depth_m - float(step), 2)):
            if s.hang.ice_m + 0.1 < depth < s.sought.lure_depth_m - 1.0 and _heard_there(
                s, replace(s.hang, depth_m=depth), s.lure_place()
            ):
                return depth
    return None


def _heard_there(s: FanSituation, hang: FanHang, place: tuple[float, float, float]) -> bool:
    """Whether the lure would be heard at a place, by how much less is lost to the angle."""
    loss, _, _ = beam_loss_db(s.here, s.head, hang, place)
    return loss > WEAK_DB and s.settings.gain_db >= s.window.lure_floor + s.lure_seen[0] - loss


@rule("reach too long")
def _too_long(s: FanSituation) -> Verdict | None:
    wanted = max(REACH_M[s.job][1], s.sought.away_m + 2.0)
    if s.settings.ahead_m <= wanted * 1.2:
        return None
    row = s.settings.reach_m / s.here.range_m.size
    return Verdict(
        "reach too long", 20.0 + s.settings.ahead_m / wanted, "The picture reaches {ahead}: bring it in to {wanted}.",
        "So far one step of the picture is {row} of water, and a frame takes {frame}.",
        {"ahead": Quantity(s.settings.ahead_m, "m"), "wanted": Quantity(wanted, "m"), "row": Quantity(row, "m"),
         "frame": Quantity(frame_time(s.settings.reach_m, s.here.sound_speed_m_s), "s")},
        Change("ahead_m", round(wanted, 1)),
    )  # fmt: skip


@rule("reach too short")
def _too_short(s: FanSituation) -> Verdict | None:
    wanted = max(REACH_M[s.job][0], s.sought.away_m + 2.0)
    if s.settings.ahead_m >= wanted - 0.5:
        return None
    return Verdict(
        "reach too short", 30.0, "The picture ends at {ahead}: let it reach {wanted}.",
        "What you look for is thought to be {away} away.",
        {"ahead": Quantity(s.settings.ahead_m, "m"), "wanted": Quantity(wanted, "m"),
         "away": Quantity(s.sought.away_m, "m")},
        Change("ahead_m", round(wanted, 1)),
    )  # fmt: skip


@rule("repeats look like fish")
def _repeats(s: FanSituation) -> Verdict | None:
    lights = repeats_gain(s.here, s.settings)
    if s.settings.gain_db < lights + 3.0:
        return None
    over = s.settings.gain_db - lights
    return Verdict(
        "repeats look like fish", 35.0 + min(over, 20.0) / 2.0,
        "What lies beyond the reach comes in a ping late and looks like fish: reject repeats.",
        "It lights from gain {lights}; you are at {gain}.",
        {"lights": Quantity(lights, "gain"), "gain": Quantity(s.settings.gain_db, "gain")},
        Change("repeats", 1.0),
    )  # fmt: skip


@rule("damping hides the lure")
def _damping(s: FanSituation) -> Verdict | None:
    _, away, _ = s.lure_seen
    costs = damped_db(s.settings, away)
    window = s.window
    if costs < TRACE_DB or s.settings.gain_db >= window.lure_floor:
        return None
    if s.settings.gain_db < window.lure_floor - costs:
        return None  # it would be lost without damping too
    return Verdict(
        "damping hides the lure", 48.0, "Damping to {damping} hides your lure at {away}: turn it back.",
        "There it takes {costs}.",
        {"damping": Quantity(s.settings.damping_m, "m"), "away": Quantity(away, "m"), "costs": Quantity(costs, "dB")},
        Change("damping_m", round(max(away / 2.0, 0.0), 1)),
    )  # fmt: skip


@rule("weak end hides the lure")
def _weak_end(s: FanSituation) -> Verdict | None:
    hidden = s.settings.weak_steps * s.settings.strong_db / STEPS
    floor = s.window.lure_floor
    if s.settings.weak_steps == 0 or s.settings.gain_db >= floor or s.settings.gain_db < floor - hidden:
        return None
    return Verdict(
        "weak end hides the lure", 46.0, "The {steps} weakest steps are left dark, and your lure with them.",
        "With all steps it shows from gain {floor}; you are at {gain}.",
        {"steps": Quantity(s.settings.weak_steps, "count"), "floor": Quantity(floor - hidden, "gain"),
         "gain": Quantity(s.settings.gain_db, "gain")},
        Change("weak_steps", 0.0),
    )  # fmt: skip


@rule("all fish look large")
def _all_large(s: FanSituation) -> Verdict | None:
    loss, away, _ = beam_loss_db(s.here, s.head, s.hang, (s.sought.away_m, 0.0, s.sought.fish_depth_m))
    small = shown_db(s.here, s.settings, fish_strength_db(s.sought.fish_m / 2.0, 0.2, s.head.frequency_hz), away, loss)
    top = -FIRST_DB - s.settings.gain_db + s.settings.strong_db
    if small < top:
        return None
    wanted = float(np.ceil(s.settings.strong_db + small - top + 6.0))
    if wanted > 60.0:
        return None  # the gain is what is wrong
    return Verdict(
        "all fish look large", 32.0, "A fish of {half} is as bright as one of {whole}: widen the contrast.",
        "Both reach the strongest colour; {wanted} from weakest to strongest would part them.",
        {"half": Quantity(s.sought.fish_m / 2.0, "m"), "whole": Quantity(s.sought.fish_m, "m"),
         "wanted": Quantity(wanted, "dB")},
        Change("strong_db", wanted),
    )  # fmt: skip


@rule("water too bright")
def _too_bright(s: FanSituation) -> Verdict | None:
    window = s.window
    if window.ceiling_by != "water" or s.settings.gain_db <= window.ceiling + TRACE_DB:
        return None
    return Verdict(
        "water too bright", 40.0 + min(s.settings.gain_db - window.ceiling, 30.0) / 2.0,
        "The water itself lights up: turn gain down to {advised}.",
        "It does from gain {ceiling} on; you are at {gain}.",
        {"advised": Quantity(window.advised, "gain"), "ceiling": Quantity(window.ceiling, "gain"),
         "gain": Quantity(s.settings.gain_db, "gain")},
        Change("gain_db", round(window.advised, 1)),
    )  # fmt: skip


@rule("gain too low")
def _too_low(s: FanSituation) -> Verdict | None:
    window = s.window
    floor, what = (window.lure_floor, "lure") if s.job == "fish" else (window.fish_floor, "fish")
    hidden = s.settings.weak_steps * s.settings.strong_db / STEPS
    if s.settings.gain_db >= floor - hidden - (damped_db(s.settings, s.lure_seen[1]) if s.job == "fish" else 0.0):
        return None
    if s.job == "fish" and s.lure_seen[0] <= WEAK_DB and s.settings.gain_db >= floor + s.lure_seen[0]:
        return None  # a weak strip is what hides it
    return Verdict(
        "gain too low", 42.0 + min(floor - s.settings.gain_db, 20.0) / 2.0,
        f"Your {what} is lost: turn gain up to {{advised}}.",
        "It shows from gain {floor}; you are at {gain}.",
        {"advised": Quantity(window.advised, "gain"), "floor": Quantity(floor, "gain"),
         "gain": Quantity(s.settings.gain_db, "gain")},
        Change("gain_db", round(max(window.advised, floor), 1)),
    )  # fmt: skip


@rule("clutter hides small fish")
def _clutter(s: FanSituation) -> Verdict | None:
    if s.settings.clutter == 0 or s.window.fish_over_water_db >= 0.0:
        return None
    if s.window.fish_over_water_db + CLUTTER_DB * s.settings.clutter < 0.0:
        return None  # the water hides it, with or without
    return Verdict(
        "clutter hides small fish", 38.0, "Rejecting clutter so hard takes a fish of {fish} away with the water.",
        "At {away} it stands {over} too little over the water: one step less shows it.",
        {"fish": Quantity(s.sought.fish_m, "m"), "away": Quantity(s.sought.away_m, "m"),
         "over": Quantity(-s.window.fish_over_water_db, "dB")},
        Change("clutter", float(s.settings.clutter - 1)),
    )  # fmt: skip


@rule("tails too long")
def _tails(s: FanSituation) -> Verdict | None:
    if s.settings.tails == 0 or s.job != "fish":
        return None
    lasts = s.settings.strong_db / 2.0 / TAIL_DB_S[s.settings.tails]
    if lasts <= 1.0:
        return None
    return Verdict(
        "tails too long", 18.0, "A mark stays for {lasts} after it has gone: shorten the tails to see a bite.",
        "A lure that is lifted is drawn twice so long.",
        {"lasts": Quantity(lasts, "s")}, Change("tails", float(s.settings.tails - 1)),
    )  # fmt: skip


@rule("screen too bright for the dark")
def _screen(s: FanSituation) -> Verdict | None:
    if not s.dark or s.settings.screen <= 0.5:
        return None
    return Verdict(
        "screen too bright for the dark", 12.0, "Turn the screen's light down to {to}.",
        "Eyes that are used to the dark lose it for minutes.",
        {"to": Quantity(40.0, "percent")}, Change("screen", 0.4),
    )  # fmt: skip
