"""The Search step's computations: distance, course, where to drill, the watch clock. Nothing is read or kept."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from ...core.fields import from_fields
from ...core.search.along_ice import along_ice
from ...core.search.by_hand import fix_by_hand
from ...core.search.course import Column, Course, Fix
from ...core.search.fewer_holes import cover
from ...core.search.heading import Known, heading_error
from ...core.search.kinds import Seen, what_kind
from ...core.search.stay_or_go import Waters, stay_or_go
from ...core.search.where_to_drill import Walker, where_to_drill
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from .contract import (
    AlongIceOut,
    AlongIceWanted,
    ByHandWanted,
    CourseOut,
    CourseWanted,
    CoverOut,
    CoverWanted,
    DrillingOut,
    DrillWanted,
    FixesGiven,
    FixFields,
    HeadingOut,
    HeadingWanted,
    WatchOut,
    WatchWanted,
)
from .look_contract import KindsOut, SeenFields

api = StepBlueprint("search", __name__, "Search")


@api.post("/search/along-ice", responses=answers(200, AlongIceOut, *BODY))
def find_along_ice(body: AlongIceWanted) -> dict[str, Any]:
    """How far along the ice something lies, from its distance in the picture."""
    return plain(along_ice(**body.model_dump()), AlongIceOut)


def _course(body: FixesGiven) -> Course:
    fixes = [from_fields(Fix, one.model_dump(), "the fix") for one in body.fixes]
    return Course(fixes, Column(body.head_depth_m, body.bottom_depth_m, body.fish_depth_m))


@api.post("/search/course", responses=answers(200, CourseOut, *BODY))
def find_course(body: CourseWanted) -> dict[str, Any]:
    """Where a school goes and how fast, from two or more fixes, and where it will be: spans of nine in ten."""
    course = _course(body)
    told = {"speed_m_s": course.speed(), "heading_deg": course.heading(), "there": course.there(body.at_s)}
    return plain(told, CourseOut)


@api.post("/search/where-to-drill", responses=answers(200, DrillingOut, *BODY))
def find_holes(body: DrillWanted) -> dict[str, Any]:
    """The holes past which a school most likely comes while someone fishes there, and how likely that is."""
    walker = Walker(**{one.name: getattr(body, one.name) for one in fields(Walker)})
    return plain(where_to_drill(_course(body), walker), DrillingOut)


@api.post("/search/heading", responses=answers(200, HeadingOut, *BODY))
def check_heading(body: HeadingWanted) -> dict[str, Any]:
    """By how much the picture is turned, from known things and where they were seen."""
    known = [from_fields(Known, one.model_dump(), "the known thing") for one in body.known]
    return plain(heading_error(known), HeadingOut)


@api.post("/search/kind", responses=answers(200, KindsOut, *BODY))
def find_kind(body: SeenFields) -> dict[str, Any]:
    """What a thing can be, from what is seen of it."""
    return plain({"kinds": what_kind(from_fields(Seen, body.model_dump(), "what is seen"))}, KindsOut)


@api.post("/search/by-hand", responses=answers(200, FixFields, *BODY))
def take_by_hand(body: ByHandWanted) -> dict[str, Any]:
    """A fix from a clock and a distance, with the errors that a hand has."""
    return plain(fix_by_hand(body.clock, body.range_m, body.time_s), FixFields)


@api.post("/search/fewer-holes", responses=answers(200, CoverOut, *BODY))
def cover_basin(body: CoverWanted) -> dict[str, Any]:
    """Where to look from so that a whole basin is seen, against drilling blind."""
    found = cover(body.shore, body.look_radius_m, body.cone_radius_m)
    return plain({**vars(found), "looks": found.looks.round(2).tolist()}, CoverOut)


@api.post("/search/stay-or-go", responses=answers(200, WatchOut, *BODY))
def look_at_clock(body: WatchWanted) -> dict[str, Any]:
    """What watching on is worth against moving, after so long and so many schools seen."""
    waters = Waters(**{one.name: getattr(body, one.name) for one in fields(Waters)})
    clock = stay_or_go(waters, body.watched_s, body.seen)
    return plain({**vars(clock), "say": "stay" if clock.stay else "go"}, WatchOut)
