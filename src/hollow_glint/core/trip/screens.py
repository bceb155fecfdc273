"""Screens to keep: of the many views that a unit has, which serve the day's job and in which order, and which to hide.

Each press through a view that is not needed is a glove off. What serves which job is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from ..checks import one_of
from ..fields import Span, check_fields
from ..gear.unit import UnitProfile
from ..ground.surface import DEEPEST_M
from ..wording import Quantity, Sentence

# What a unit may show, in our own words.
VIEWS: dict[str, str] = {
    "now": "what is under the hole now",
    "history": "the last minutes, running",
    "ring": "the column around a ring",
    "bottom window": "the water over the bottom, enlarged",
    "free window": "a part of the column, enlarged",
    "two beams": "wide and narrow side by side",
    "all round": "the circle around the hole",
    "ahead": "the water ahead",
    "map": "the map and where one stands",
    "track": "the way back, and speed",
    "volts": "volts and the unit's state",
}
OF_PICTURES = {"trace": "history", "strip": "now", "ring": "ring"}
DEEP_M = 10.0  # from which on a window is worth a view of its own


@dataclass(frozen=True)
class Job:
    """The day as far as screens go: band of depths [m], how many places and people, whether one looks around first."""

    from_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    to_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    places: Annotated[int, Span(0, 200)]
    people: Annotated[int, Span(1, 60)]

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Kept:
    """A view: its place in the order from 1, or None where it is hidden for the day, and why."""

    view: str
    place: int | None
    why: Sentence


def views_of(unit: UnitProfile) -> list[str]:
    """The views that a unit's profile tells of; others (a map, a sonar that turns) only its owner knows of."""
    found = [OF_PICTURES[one] for one in unit.pictures if one in OF_PICTURES]
    if unit.bottom_windows_m:
        found.append("bottom window")
    if unit.free_windows_m:
        found.append("free window")
    if len(unit.beams) > 1:
        found.append("two beams")
    return [view for view in VIEWS if view in found]


def screens_to_keep(views: Sequence[str], job: Job) -> list[Kept]:
    """The views for a job: those to keep in their order, then those to hide. Raises ValueError for an unknown view."""
    for view in views:
        one_of("views", view, tuple(VIEWS))
    ranked: list[tuple[float, str, Sentence]] = []
    for view in views:
        worth, words = _worth(view, views, job)
        values = {
            "from": Quantity(job.from_m, "m"), "to": Quantity(job.to_m, "m"), "places": Quantity(job.places, "count"),
        }  # fmt: skip
        ranked.append((worth, view, Sentence(words, values)))
    ranked.sort(key=lambda one: -one[0])
    kept = [Kept(view, k, why) for k, (worth, view, why) in enumerate((x for x in ranked if x[0] > 0.0), 1)]
    return kept + [Kept(view, None, why) for worth, view, why in ranked if worth <= 0.0]


def _worth(view: str, views: Sequence[str], job: Job) -> tuple[float, str]:
    """How much a view serves the job, nothing or less to hide it; and why."""
    deep, walking = job.to_m >= DEEP_M, job.places > 1
    if view == "history":
        return 10.0, "Where fish are fished: lure, fish and what they did in the last minutes."
    if view == "now":
        return (9.0 if "history" not in views else 0.0), (
            "Lure and fish as they are now." if "history" not in views else "The running picture shows it at its edge."
        )
    if view == "ring":
        other = any(one in views for one in ("now", "history"))
        return (0.0 if other else 9.5), (
            "The same echoes a second time." if other else "The column, and what moves in it."
        )
    if view == "bottom window":
        return (8.0 if deep else 0.0), (
            "At {from} to {to} a fish close to the bottom is a few rows high without it."
            if deep
            else "Not needed at {from} to {to}: the whole column is large enough."
        )
    if view == "free window":
        return (7.0 if deep and "bottom window" not in views else 0.0), (
            "To enlarge the water that fish come through."
            if deep and "bottom window" not in views
            else "One window is enough for {from} to {to}."
        )
    if view == "two beams":
        wanted = job.people > 1
        return (5.0 if wanted else 0.0), (
            "To tell what is under the hole from what is beside it, with others near."
            if wanted
            else "Alone, one beam says enough."
        )
    if view in ("all round", "ahead"):
        return (6.0 if walking else 2.0), "To choose where to drill, at each new place; then leave it."
    if view == "map":
        return (4.0 if walking else 0.0), ("To walk to {places} places." if walking else "You stay at one place.")
    return 0.0, "Look at it before the trip; on the ice it is one press more."
