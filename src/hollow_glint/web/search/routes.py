"""The Search step's computations: distance along the ice, a school's course. Nothing is read from the store or kept."""

from __future__ import annotations

from typing import Any

from ...core.fields import from_fields
from ...core.search.along_ice import along_ice
from ...core.search.course import Column, Course, Fix
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from .contract import AlongIceOut, AlongIceWanted, CourseOut, CourseWanted

api = StepBlueprint("search", __name__, "Search")


@api.post("/search/along-ice", responses=answers(200, AlongIceOut, *BODY))
def find_along_ice(body: AlongIceWanted) -> dict[str, Any]:
    """How far along the ice something lies, from its distance in the picture."""
    return plain(along_ice(**body.model_dump()), AlongIceOut)


@api.post("/search/course", responses=answers(200, CourseOut, *BODY))
def find_course(body: CourseWanted) -> dict[str, Any]:
    """Where a school goes and how fast, from two or more fixes, and where it will be: spans of nine in ten."""
    fixes = [from_fields(Fix, one.model_dump(), "the fix") for one in body.fixes]
    course = Course(fixes, Column(body.head_depth_m, body.bottom_depth_m, body.fish_depth_m))
    told = {"speed_m_s": course.speed(), "heading_deg": course.heading(), "there": course.there(body.at_s)}
    return plain(told, CourseOut)
