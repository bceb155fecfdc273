"""Everything for one pocket sheet, worked out depth by depth: hole cards and call tables for every combination.

A card is kept as whole numbers, so fine that what is shown of them is what the core would show: thousandths of a metre,
of a decibel, of a step of the knob. Nothing between two depths is interpolated: the nearest quarter of a metre stands.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import asdict, dataclass, fields
from typing import Any, Final

from ..card.figures import Numbers
from ..card.hole_card import Gains, HoleCard, hole_card
from ..checks import InputError
from ..gear.settings import Settings
from ..reader.call_sheet import merged_within
from ..reader.explanations import lure_shows
from ..reader.observation import SheetContext
from ..wording import Sentence
from .along import DEPTHS_M, Along, Combination
from .calls import CallTable, call_table

THOUSAND: Final = 1000
MOST_REMEDIES: Final = 3
SETTINGS: Final = tuple(one.name for one in fields(Settings))
NUMBERS: Final = tuple(one.name for one in fields(Numbers))
GAINS: Final = tuple(one.name for one in fields(Gains))
OWN: Final = ("lure_depth_m", "fish_length_m", "face_depth_m", "below_ice_m", "float_m", "lure_shown_m", "merged_m")

# How a few tasks are worked off: as the built-in map does, or in several processes.
Runner = Callable[[Callable[["Task"], "Done"], Iterable["Task"]], Iterator["Done"]]


@dataclass(frozen=True)
class Task:
    """A combination at a few depths (places in DEPTHS_M)."""

    along: Along
    combination: Combination
    depths: tuple[int, ...]


@dataclass(frozen=True)
class CardThere:
    """A card in whole numbers (thousandths) by name, None where there is none: the unit does not reach, or no gain
    shows the lure. `said` is what to remedy, most first."""

    values: dict[str, int | None]
    said: tuple[Sentence, ...]
    calls: CallTable


Done = list["CardThere | None"]


@dataclass(frozen=True, eq=False)
class Tables:
    """All that was worked out: for each combination a card or None at each of DEPTHS_M."""

    along: Along
    cards: dict[Combination, list[CardThere | None]]


def tasks_of(along: Along, depths_each: int = 12) -> list[Task]:
    """The work in pieces that take a few seconds each."""
    every = range(len(DEPTHS_M))
    return [
        Task(along, one, tuple(every[k : k + depths_each]))
        for one in along.combinations()
        for k in range(0, len(every), depths_each)
    ]


def worked_off(task: Task) -> Done:
    """The cards of one task; None at a depth that the unit, or the water over the ice, does not leave."""
    found: Done = []
    for k in task.depths:
        unit, lure = task.along.units[task.combination.unit], task.along.lures[task.combination.lure]
        try:
            card = hole_card(task.along.at(task.combination, DEPTHS_M[k]), unit, lure)
        except InputError:
            found.append(None)
        else:
            found.append(_there(card))
    return found


def tabled(along: Along, tell: Callable[[float], None] = lambda _: None, run: Runner = map) -> Tables:
    """Everything, telling how far it is (0 to 1) as it goes; `run` may share the work out over processes."""
    tasks = tasks_of(along)
    cards: dict[Combination, list[CardThere | None]] = {one: [] for one in along.combinations()}
    for n, (task, done) in enumerate(zip(tasks, run(worked_off, tasks), strict=True), 1):
        cards[task.combination].extend(done)
        tell(n / len(tasks))
    if all(one is None for mine in cards.values() for one in mine):
        raise InputError("no unit that is taken along reaches any depth from 2 to 25 m in such water")
    return Tables(along, cards)


def _there(card: HoleCard) -> CardThere:
    at = SheetContext(card.scene, card.unit, card.settings, card.lure, card.lure_depth_m)
    shown, _ = lure_shows(at, card.lure, card.lure_depth_m)
    own = {name: getattr(card, name) for name in OWN[:-2]}
    every: dict[str, Any] = {
        **{f"settings.{name}": value for name, value in asdict(card.settings).items()},
        **{f"numbers.{name}": value for name, value in asdict(card.numbers).items()},
        **{f"gains.{name}": value for name, value in asdict(card.gains).items()},
        **own, "lure_shown_m": shown, "merged_m": merged_within(at),
    }  # fmt: skip
    values = {name: None if value is None else round(THOUSAND * float(value)) for name, value in every.items()}
    said = tuple(one.what for one in card.remedies[:MOST_REMEDIES])
    return CardThere(values, said, call_table(at))


COLUMNS: Final[Sequence[str]] = (
    *(f"settings.{name}" for name in SETTINGS), *(f"numbers.{name}" for name in NUMBERS),
    *(f"gains.{name}" for name in GAINS), *OWN,
)  # fmt: skip
