"""The forward fan: a head aimed into a patch of water, its picture as it goes on, advice, and what is touched."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from flask import Response, current_app

from ...core.bench.command import HandCommand
from ...core.checks import InputError
from ...core.fan.coach import fan_verdicts, with_change
from ...core.fan.costs import costs
from ...core.fan.frame import MOST_FRAMES_S
from ...core.fan.head import CONTROLS as FAN_CONTROLS
from ...core.fan.head import FAN_HEADS, FanHang, FanHead
from ...core.fan.look import FanLook
from ...core.fan.measure import closing, measured, turn_to
from ...core.fan.picture import STEPS, picture
from ...core.fan.settings import FanSettings, check_settings
from ...core.fan.situation import FanSituation
from ...core.fan.swimmers import HungLure
from ...core.fan.water import BINS
from ...core.fan.window import Sought
from ...core.fields import from_fields
from ...core.gear.lures import USUAL_JIG, Lure
from ...core.wording import Change
from ..blueprint import StepBlueprint
from ..contract import BODY, Problem, answers, plain
from ..database import database
from ..lives import Gone, Live, Lives, event, new_id, packed, streamed
from ..problems import problem
from .fan_fishing import FishedWater, LiveFishing, begin_fishing, fishing_card, searching_settings
from .fan_fishing_contract import AnglerFields, HandTold
from .fans_contract import (
    AdviceOut,
    AdviceWanted,
    ChangeWanted,
    ClosingOut,
    ClosingWanted,
    FanFrameOut,
    FanHangFields,
    FanHeadsOut,
    FanMarkWanted,
    FanOut,
    FanPath,
    FanSettingsFields,
    FanSetWanted,
    FanTold,
    FanWanted,
    HungLureFields,
    MeasuredOut,
    TurnOut,
    TurnWanted,
)
from .first_look import FirstLook
from .look_contract import PaceGiven, TruthOut
from .looks import TRUTH_LATER, the_water, truth_of

FRAME_S = 0.1
MOST_FANS = 8

api = StepBlueprint("fans", __name__, "Search")


@dataclass
class LiveFan(Live):
    """A look ahead with what was asked of it on the way in and the clock on the way out."""

    seed: int
    look: FanLook
    wanted: tuple[FanHang, FanSettings, tuple[HungLure, ...] | None] | None = None
    fishing: LiveFishing | None = None
    scene: str | None = None
    pace: int = 1

    def next_event(self) -> str:
        """The newest picture of the next frame of its water."""
        with self.stepping:
            with self.lock:
                wanted, self.wanted = self.wanted, None
            if wanted is not None:
                self.look.set(*wanted)
            if self.fishing is None:
                self.look.advance(FRAME_S * self.pace, newest_only=True)
            else:
                self.fishing.advance(FRAME_S)
            return event("fan", self.frame())

    def frame(self) -> dict[str, Any]:
        """The newest picture and how the fishing stands, as fields of `FanFrameOut`."""
        return {**frame_fields(self.look), "fishing": self.fishing and self.fishing.fields()}


class LiveFans(Lives[LiveFan]):
    """All live fans of this program."""

    what, where = "fans", "Search page"

    def __init__(self, pace: float = 1.0) -> None:
        super().__init__(MOST_FANS, pace)


def frame_fields(look: FanLook) -> dict[str, Any]:
    """The newest picture as fields of `FanFrameOut`, all but the fishing; not by way of the model, because ten a second
    go to every reader.

    Where the next frame is not due yet, as it was.
    """
    frame = look.newest
    if frame is None:
        while not (made := look.advance(1.0 / MOST_FRAMES_S)):
            pass
        frame = made[-1]
    by_day, by_night = (picture(frame.steps, look.head, frame.hang, frame.settings, one) for one in ("rime", "lantern"))
    return {
        "now_s": round(look.time_s, 3), "levels": packed(frame.steps), "beams_deg": by_day.beams_deg.round(3).tolist(),
        "reach_m": by_day.reach_m, "lines_ahead_m": by_day.lines_ahead_m, "lines_deep_m": by_day.lines_deep_m,
        "numbers_ahead_m": by_day.numbers_ahead_m, "numbers_deep_m": by_day.numbers_deep_m,
        "heading_deg": by_day.heading_deg, "dark": [by_day.dark, by_night.dark],
        "colours": [by_day.colours, by_night.colours], "hang": vars(frame.hang), "settings": vars(frame.settings),
    }  # fmt: skip


def head_fields(key: str, head: FanHead) -> dict[str, Any]:
    """A head as fields of `FanHeadOut`."""
    return {
        **{name: value for name, value in vars(head).items() if name != "lacks"},
        "key": key, "fan_deg": head.fan_deg, "seams_deg": head.seams_deg,
        "controls": [one for one in FAN_CONTROLS if head.has(one)],
    }  # fmt: skip


def _lures(given: list[HungLureFields]) -> tuple[HungLure, ...]:
    return tuple(from_fields(HungLure, _with_lure(one.model_dump()), "a lure in a hole") for one in given)


def _with_lure(fields: dict[str, Any]) -> dict[str, Any]:
    """With the usual jig where no lure is named."""
    lure = fields["lure"]
    return {**fields, "lure": USUAL_JIG if lure is None else from_fields(Lure, lure, "a lure")}


def _set(hang: FanHangFields, settings: FanSettingsFields) -> tuple[FanHang, FanSettings]:
    return (
        from_fields(FanHang, hang.model_dump(), "how it hangs"),
        from_fields(FanSettings, settings.model_dump(), "how it is set"),
    )


def find_fan(fan_id: str) -> LiveFan:
    """The live fan with this id, or Gone."""
    fans: LiveFans = current_app.config["live_fans"]
    found = fans.get(fan_id)
    if found is None:
        raise Gone("fan", fan_id)
    return found


@api.get("/search/fan-heads", responses=answers(200, FanHeadsOut))
def fan_heads() -> dict[str, Any]:
    """The heads there are, each with the controls that it has."""
    return plain({"heads": [head_fields(key, head) for key, head in FAN_HEADS.items()]}, FanHeadsOut)


@api.post("/search/fans", responses=answers(201, FanOut, 404, 503, *BODY))
def start_fan(body: FanWanted) -> tuple[dict[str, Any], int]:
    """Let the head down and look ahead. Read its stream within a few seconds."""
    fans: LiveFans = current_app.config["live_fans"]
    first: FirstLook = current_app.config["first_look"]
    seed = first.seed() if body.seed is None else body.seed
    patch = the_water(database(), body, seed)
    hang, settings = _set(body.hang, body.settings)
    head = FAN_HEADS[body.head]
    if body.scene is not None:
        settings = settings if "settings" in body.model_fields_set else searching_settings(patch, head)
    if body.fishing is not None:
        if body.scene is not None or body.pace != 1:
            raise InputError("fishing: none is accepted with a scene, whose truth it would tell, or at another pace")
        by_card = fishing_card(patch, body.fishing, head)
        # What is not said is as the card for fishing has it.
        hang = hang if "hang" in body.model_fields_set else by_card.hang
        settings = settings if "settings" in body.model_fields_set else by_card.settings
    if body.fishing is None:
        fishing = None
        look = FanLook(patch, head, hang, settings, np.random.default_rng([seed, 2]), _lures(body.lures), body.start_s)
    else:
        if body.lures:
            raise InputError("lures: none are accepted with fishing, which hangs its own")
        fishing = begin_fishing(body.fishing, FishedWater(patch, head, hang, settings, body.start_s, seed))
        look, patch = fishing.fishing.look, fishing.fishing.look.patch
    one = fans.put(LiveFan(seed, look, id=new_id(), frame_s=FRAME_S / fans.pace, fishing=fishing,
                           scene=body.scene, pace=body.pace))  # fmt: skip
    fields = {
        "id": one.id, "seed": seed, "frame_s": one.frame_s, "beams": head.beams, "bins": BINS, "steps": STEPS,
        "time_s": look.time_s, "bottom_depth_m": patch.bottom_depth_m, "head": head_fields(body.head, head),
        "hang": asdict(hang), "settings": asdict(settings), "lures": [asdict(lure) for lure in look.lures],
        "fishing": fishing and fishing.begun(),
    }  # fmt: skip
    return plain(fields, FanOut), 201


@api.get("/search/fans/<fan_id>/stream", responses={404: Problem})
def stream_fan(path: FanPath) -> Response:
    """The picture as it goes on, as server-sent events: `fan` (FanFrameOut), ten a second."""
    return streamed(find_fan(path.fan_id))


@api.get("/search/fans/<fan_id>/picture", responses=answers(200, FanFrameOut, 404))
def fan_picture(path: FanPath) -> dict[str, Any]:
    """The picture as it stands."""
    one = find_fan(path.fan_id)
    with one.stepping:
        return plain(one.frame(), FanFrameOut)


@api.post("/search/fans/<fan_id>/set", responses=answers(202, FanTold, 404, *BODY))
def set_fan(path: FanPath, body: FanSetWanted) -> tuple[dict[str, Any], int]:
    """Hang it, aim it, set it, hang the lures elsewhere."""
    one = find_fan(path.fan_id)
    hang, settings = _set(body.hang, body.settings)
    check_settings(one.look.head, settings)
    lures = None if body.lures is None else _lures(body.lures)
    if one.fishing is not None and lures is not None:
        raise InputError("lures: none are accepted while you fish; the hand moves yours")
    with one.lock:
        one.wanted = (hang, settings, lures)
    return {"hang": asdict(hang), "settings": asdict(settings)}, 202


@api.post("/search/fans/<fan_id>/pace", responses=answers(202, PaceGiven, 404, 409, *BODY))
def pace_fan(path: FanPath, body: PaceGiven) -> tuple[dict[str, Any], int] | Response:
    """Let its water go faster, or as fast as life."""
    one = find_fan(path.fan_id)
    if one.fishing is not None:
        return problem(409, "Who fishes does so as fast as life.")
    with one.stepping:
        one.pace = body.pace
    return {"pace": body.pace}, 202


@api.post("/search/fans/<fan_id>/hand", responses=answers(202, HandTold, 404, 409, *BODY))
def move_hand(path: FanPath, body: AnglerFields) -> tuple[dict[str, Any], int] | Response:
    """Lift or lower the lure, look at the rod tip, set the hook."""
    one = find_fan(path.fan_id)
    if one.fishing is None:
        return problem(409, "Nobody fishes under this fan: begin it at a hole, with the head turned down.")
    one.fishing.obey(from_fields(HandCommand, body.model_dump(), "the hand"))
    return {"lure_depth_m": one.fishing.fishing.fished.lure_depth_m}, 202


@api.post("/search/fans/<fan_id>/advice", responses=answers(200, AdviceOut, 404, *BODY))
def advise_fan(path: FanPath, body: AdviceWanted) -> dict[str, Any]:
    """The window of the gain, what is wrong, worst first, and what each control costs."""
    one = find_fan(path.fan_id)
    sought = from_fields(Sought, _with_lure(body.sought.model_dump()), "what is sought")
    with one.stepping:
        look = one.look
        s = FanSituation(look.water, look.head, look.hang, look.settings, sought, body.job, body.dark)  # type: ignore[arg-type]
    window = s.window
    fields = {
        "window": {**vars(window), "floor": window.floor, "is_open": window.is_open},
        "verdicts": [{k: v for k, v in vars(found).items() if k != "severity"} for found in fan_verdicts(s)],
        "costs": costs(s),
    }
    return plain(fields, AdviceOut)


@api.post("/search/fans/<fan_id>/change", responses=answers(202, FanTold, 404, *BODY))
def change_fan(path: FanPath, body: ChangeWanted) -> tuple[dict[str, Any], int]:
    """Make one change, as the coach names it."""
    one = find_fan(path.fan_id)
    with one.stepping:
        hang, settings = with_change(one.look.hang, one.look.settings, Change(body.setting, body.value))
        check_settings(one.look.head, settings)
        with one.lock:
            one.wanted = (hang, settings, None)
    return {"hang": asdict(hang), "settings": asdict(settings)}, 202


@api.get("/search/fans/<fan_id>/mark", responses=answers(200, MeasuredOut, 404, 422))
def measure_mark(path: FanPath, query: FanMarkWanted) -> dict[str, Any]:
    """What was touched: how far along the ice, how deep, how long, and what to do; null where nothing stands out."""
    one = find_fan(path.fan_id)
    with one.stepping:
        found = measured(one.look, query.ahead_m, query.depth_m)
    nothing = dict.fromkeys(MeasuredOut.model_fields)
    return plain(nothing if found is None else vars(found), MeasuredOut)


@api.post("/search/fan-turn", responses=answers(200, TurnOut, *BODY))
def turn_fan(body: TurnWanted) -> dict[str, Any]:
    """How far to turn the handle to have a thing in the plane, from how loud it was at two aims and more."""
    seen = [(one.aim_deg, one.strength_db) for one in body.seen]
    return plain(vars(turn_to(seen, FAN_HEADS[body.head], body.aim_deg)), TurnOut)


@api.post("/search/fan-closing", responses=answers(200, ClosingOut, *BODY))
def fan_closing(body: ClosingWanted) -> dict[str, Any]:
    """Whether a thing comes nearer or leaves, from how far off it was at two times and more."""
    return plain(vars(closing([(one.time_s, one.range_m) for one in body.seen])), ClosingOut)


@api.get("/search/fans/<fan_id>/truth", responses=answers(200, TruthOut, 404, 409))
def fan_truth(path: FanPath) -> dict[str, Any] | Response:
    """What is there, from above: lines of equal depth, what stands, and who swims where just now."""
    one = find_fan(path.fan_id)
    if one.scene is not None:
        return problem(409, TRUTH_LATER)
    with one.stepping:
        look = one.look
    return truth_of(look.patch, look.time_s, look.came)


@api.delete("/search/fans/<fan_id>", responses=answers(204, None, 404))
def end_fan(path: FanPath) -> tuple[str, int]:
    """Take the head out of the water."""
    fans: LiveFans = current_app.config["live_fans"]
    if not fans.free(path.fan_id):
        raise Gone("fan", path.fan_id)
    return "", 204
