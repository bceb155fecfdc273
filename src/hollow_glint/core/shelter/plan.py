"""The plan for a shelter: for each person where to sit, how to set the unit; before and after; what cannot be had."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated

from ..acoustics.sonar_equation import max_ping_rate
from ..fields import doc
from ..gear.settings import Settings, picture_rate
from ..hole.contents import Neighbour
from ..hole.scene import Scene
from ..sonar import receiver
from ..sonar.transmission import transmit
from ..tuning.company import NEIGHBOUR_SHARE
from ..tuning.gain_window import GainWindow
from ..tuning.situation import situation_at
from ..wording import Quantity, Sentence
from .branch_and_bound import MOST_BOUNDS, best_seating
from .choices import TURNED, Choices, Way, choices_of
from .heard import Heard, as_neighbour, heard_pair, share_seen
from .party import Party, Seat
from .seating import HARDLY, table_of

CAUTIONS = (
    "No ice is safe ice. Many people, heaters and gear in one place load it: measure it there, spread out, and keep to "
    "local rules first.",
    "A heater, a lantern or an engine in a shelter makes carbon monoxide: keep air moving, and carry an alarm.",
    "Keep cables and lines out of each other's holes, and the way to the door free.",
)


@dataclass(frozen=True)
class SeatState:
    """How one seat stands, before or after. Shares are of its picture; None for someone who has no hole yet.

    floor   None while the lure lies in a stronger echo or out of the beam
    """

    hole: int | None
    settings: Settings
    floor: float | None
    ceiling: float
    lag_s: float
    share: Annotated[float | None, doc("Of its picture that neighbours light, 0 to 1")]
    scene: Annotated[Scene, doc("Its water with all others on, for the Bench")]


@dataclass(frozen=True)
class SeatPlan:
    """What one person does: the line to say to them, what of it changes, and how it was and will be."""

    name: str
    line: str
    changes: tuple[str, ...]
    lure_depth_m: float
    before: SeatState
    after: SeatState


@dataclass(frozen=True)
class ShelterPlan:
    """The plan: seat by seat, who hears whom before and after, and what cannot be had.

    proved   whether it is proved that no other is better, counted as `seating` counts
    """

    seats: tuple[SeatPlan, ...]
    heard_before: tuple[Heard, ...]
    heard_after: tuple[Heard, ...]
    disturbed_before: int
    disturbed_after: int
    proved: bool
    words: tuple[Sentence, ...]


def shelter_plan(party: Party, most_bounds: int = MOST_BOUNDS) -> ShelterPlan:
    """The best joint choice of hole, beam, power, pulse, rejection and gain for a party.

    Someone without a hole among others who have one comes late: they are planned in with the fewest changes.
    """
    choices = tuple(_choices(party, seat) for seat in party.seats)
    home = tuple(seat.hole for seat in party.seats)
    late = None in home and any(one is not None for one in home)
    found = best_seating(table_of(choices, home, party.apart_m, late), most_bounds)
    ways = [one.ways[at.voice][at.way] for one, at in zip(choices, found.seats, strict=True)]
    before = _states(party, choices, home, [one.now for one in choices])
    holes = tuple(one.hole for one in found.seats)
    after = _states(party, choices, holes, [way.settings for way in ways])
    seats = tuple(
        SeatPlan(
            seat.name,
            _line(seat, at.hole, at.settings),
            _changes(seat, was, at),
            one.lure_depth_m,
            was,
            at,
        )
        for seat, one, was, at in zip(party.seats, choices, before, after, strict=True)
    )
    return ShelterPlan(
        seats,
        _heard(party, choices, before),
        _heard(party, choices, after),
        sum(_disturbed(one) for one in before),
        sum(_disturbed(one) for one in after),
        found.proved,
        tuple(_words(party, ways, before, after, found.proved)),
    )


def _choices(party: Party, seat: Seat) -> Choices:
    water = replace(party.water, lure_depth_m=seat.lure_depth_m)
    return choices_of(water, seat.unit, seat.lure, seat.now)


def _states(
    party: Party, choices: tuple[Choices, ...], holes: tuple[int | None, ...], settings: list[Settings]
) -> tuple[SeatState, ...]:
    found = []
    for i, (one, hole) in enumerate(zip(choices, holes, strict=True)):
        neighbours = tuple(near for _, near in _neighbours(party, choices, holes, settings, i))
        limits = _limits(one, settings[i])
        t = transmit(one.scene, one.unit, settings[i])
        rate = picture_rate(one.unit, settings[i], max_ping_rate(settings[i].range_m, t.sound_speed_m_s))
        found.append(
            SeatState(
                hole,
                settings[i],
                None if limits.buried or limits.floor == float("inf") else float(limits.floor),
                float(limits.ceiling),
                float(receiver.lag(one.unit, settings[i], rate)),
                None if hole is None else share_seen(one, settings[i], neighbours),
                replace(one.scene, neighbours=neighbours),
            )
        )
    return tuple(found)


def _limits(one: Choices, settings: Settings) -> GainWindow:
    return situation_at(one.scene, one.unit, settings, one.lure, one.lure_depth_m).limits


def _neighbours(
    party: Party, choices: tuple[Choices, ...], holes: tuple[int | None, ...], settings: list[Settings], i: int
) -> list[tuple[int, Neighbour]]:
    """All others who have a hole, as seat i sees them, with their numbers; none for someone who has none."""
    mine = holes[i]
    if mine is None:
        return []
    found = []
    for j, (other, theirs) in enumerate(zip(choices, holes, strict=True)):
        if j != i and theirs is not None:
            c = transmit(other.scene, other.unit, settings[j]).sound_speed_m_s
            apart = float(party.apart_m[mine, theirs])
            found.append((j, as_neighbour(other.unit, settings[j], apart, c)))
    return found


def _heard(party: Party, choices: tuple[Choices, ...], states: tuple[SeatState, ...]) -> tuple[Heard, ...]:
    holes, settings = tuple(one.hole for one in states), [one.settings for one in states]
    return tuple(
        heard_pair(i, j, choices[i], settings[i], near)
        for i in range(len(choices))
        for j, near in _neighbours(party, choices, holes, settings, i)
    )


def _disturbed(state: SeatState) -> bool:
    return state.share is not None and state.share > NEIGHBOUR_SHARE


def _line(seat: Seat, hole: int | None, settings: Settings) -> str:
    """What to say to them: only what their unit has a choice of, in its own numbers."""
    unit = seat.unit
    said = [f"hole {(hole or 0) + 1}"]
    if len(unit.beams) > 1:
        said.append(f"beam {unit.beams[settings.beam].name}")
    if len(unit.powers_w) > 1:
        said.append(f"power {unit.powers_w[settings.power]:g} W")
    if len(unit.pulses) > 1:
        said.append(f"pulse {unit.pulses[settings.pulse].name}")
    if len(unit.rejections) > 1:
        said.append(f"rejection {settings.rejection}")
    said.append(f"gain {settings.gain:g}")
    return f"{seat.name}: {', '.join(said)}"


def _changes(seat: Seat, was: SeatState, at: SeatState) -> tuple[str, ...]:
    """Names of what changes: "hole" and knobs."""
    moved = ("hole",) if was.hole != at.hole else ()
    return (*moved, *(name for name in TURNED if getattr(was.settings, name) != getattr(at.settings, name)))


def _words(
    party: Party, ways: list[Way], before: tuple[SeatState, ...], after: tuple[SeatState, ...], proved: bool
) -> list[Sentence]:
    """What cannot be had, whom it hits, and who suffers least."""
    found = []
    for seat, way in zip(party.seats, ways, strict=True):
        if way.short_db >= 99:
            found.append(
                Sentence(
                    f"{seat.name}'s lure lies in a stronger echo or out of the beam: nothing it is set to shows it."
                )
            )
        elif way.short_db:
            text = f"No gain shows {seat.name}'s lure in quiet water here: {{short}} are missing. "
            text += "Its card says what would help."
            found.append(Sentence(text, {"short": Quantity(way.short_db, "dB")}))
    left = sorted(
        ((at.share or 0.0, seat) for seat, at in zip(party.seats, after, strict=True) if _disturbed(at)),
        key=lambda one: one[0],
    )
    for share, seat in left:
        why = (
            "the unit has no interference rejection"
            if len(seat.unit.rejections) == 1
            else "no step of its rejection is enough"
        )
        text = f"{seat.name} still has {{share}} of the picture lit by others: {why}."
        found.append(Sentence(text, {"share": Quantity(100.0 * share, "percent")}))
    if len(left) > 1 and left[-1][0] > HARDLY * left[0][0]:
        text = "Of those, {least} suffers least and {most} most."
        text = text.replace("{least}", left[0][1].name).replace("{most}", left[-1][1].name)
        found.append(Sentence(text))
    if left and proved:
        found.append(Sentence("No plan that shows as many lures leaves fewer disturbed."))
    calmer = sum(_disturbed(one) for one in before) - len(left)
    if not left:
        text = (
            "With these settings nobody's picture is lit by another."
            if calmer
            else "Nobody's picture is lit by another, as things stand and with these settings."
        )
        found.insert(0, Sentence(text))
    if not proved:
        found.append(
            Sentence(
                "So many seatings are nearly as good here that it is not proved that none is better than this one."
            )
        )
    return found
