"""What each fish is like: every number of the behaviour model with its unit, its reason and where it comes from.

Three tables: numbers that hold for all fish, those that go with the day's mood, those that go with the species. A
number marked "common practice" is what anglers agree on, without a published source; "invented" is ours, there to be
argued with. `docs/behaviour.md` is made from these tables.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..checks import Floats, one_of
from ..hole.contents import SPECIES as ALL_SPECIES
from .hand import DRAWS

MOODS = ("hot", "choosy", "dead")
MOOD_WORDS = {
    "hot": "fish come fast, follow high and take on the lift",
    "choosy": "fish come and look, follow a little, and take on a pause if at all",
    "dead": "few fish come, and hardly one of them takes",
}
SPECIES = tuple(ALL_SPECIES)  # in this order stand the numbers of BY_SPECIES
PRACTICE, INVENTED = "common practice", "invented"


@dataclass(frozen=True)
class Trait:
    """One number of the model: its values (one, one a mood, or one a species), unit, reason and source."""

    name: str
    values: tuple[float, ...]
    unit: str
    reason: str
    source: str = INVENTED


ALL: tuple[Trait, ...] = (
    Trait("sight_m", (2.6,), "m", "how far off a lure is seen in clear water by day"),
    Trait("hear_m", (5.0,), "m", "how far off a thump on the bottom is felt by the lateral line"),
    Trait("touch_m", (0.07,), "m", "near enough to take: a fish opens its mouth about here"),
    Trait("near_m", (1.1,), "m", "within this a fish watches what the lure does; beyond it only comes"),
    Trait("slow_from_m_s", (0.004,), "m/s", "a rise slower than this looks like a lure at rest"),
    Trait("best_from_m_s", (DRAWS[0],), "m/s", "from here on a lift draws best: a finger's width at a time", PRACTICE),
    Trait("best_to_m_s", (DRAWS[1],), "m/s", "up to here a lift draws best", PRACTICE),
    Trait("slow_to_m_s", (0.10,), "m/s", "a lift this fast draws nothing more"),
    Trait("fast_m_s", (0.15,), "m/s", "faster than this it flees beyond catching: fish cool and turn", PRACTICE),
    Trait("drop_m_s", (0.12,), "m/s", "falling faster than this towards a fish is a drop onto it"),
    Trait(
        "drop_within_m", (0.9,), "m", "a fish this near below a dropped lure is put off: never chase it down", PRACTICE
    ),
    Trait("still_half_life_s", (6.0,), "s", "a still lure's draw has halved after this"),
    Trait("pause_s", (4.0,), "s", "how long after a lift a hold still counts as a pause, when fish take", PRACTICE),
    Trait("stale_twitch", (0.6,), "1", "each twitch draws this share of the one before"),
    Trait("twitch_rest_s", (5.0,), "s", "after a rest this long a twitch is news again"),
    Trait("thump_m_s", (0.08,), "m/s", "the lure meets the bottom at least this fast for a thump to be felt"),
    Trait("company_m", (1.5,), "m", "a second fish this near competes: fish in company commit sooner", PRACTICE),
    Trait("wary_m", (1.2,), "m", "a hook set within this of others makes them wary"),
    Trait("mouthful", (0.25,), "1", "a lure longer than this share of a fish is too much to take whole"),
    Trait("nip_m", (0.15,), "m", "fish shorter than this nip at bait and are not hooked: size them first", PRACTICE),
    Trait("keen_at_first", (0.25,), "1", "how keen a fish is that has just noticed a lure, of 1"),
    Trait("following_from", (0.45,), "1", "from this keenness on it follows a lure up"),
    Trait("turn_off_m", (0.4,), "m", "a lure this far above its highest depth is given up"),
    Trait("bait_draw_per_s", (0.03,), "1/s", "a baited dead stick draws slowly and steadily by its smell", PRACTICE),
)

EVERY: dict[str, float] = {one.name: one.values[0] for one in ALL}

BY_MOOD: tuple[Trait, ...] = (
    Trait("notice_per_s", (1.6, 0.8, 0.25), "1/s", "how soon a moving lure in sight is noticed"),
    Trait("comes", (0.92, 0.85, 0.3), "1", "share of those that notice and come at all"),
    Trait(
        "lift_draw_per_s",
        (0.12, 0.055, 0.05),
        "1/s",
        "keener, while the lure climbs slowly: draw the fish up",
        PRACTICE,
    ),
    Trait("pause_draw_per_s", (0.03, 0.06, 0.02), "1/s", "keener, in the first seconds of a pause"),
    Trait(
        "still_loss_per_s",
        (-0.008, 0.03, 0.05),
        "1/s",
        "cooler, beside a lure that has lost its draw; a hot fish warms to it",
    ),
    Trait("twitch_draw", (0.08, 0.02, -0.04), "1", "keener with a fresh twitch; a sluggish fish is put off by it"),
    Trait("thump_draw", (0.10, 0.09, -0.02), "1", "keener with a thump near by, on a day when pounding works"),
    Trait("fast_loss_per_s", (0.25, 0.8, 1.2), "1/s", "cooler, while the lure is jerked or reeled away", PRACTICE),
    Trait("drop_puts_off", (0.6, 0.95, 1.0), "1", "share that leave when the lure is dropped onto them", PRACTICE),
    Trait("takes_from", (0.62, 0.80, 0.92), "1", "keenness from which it may take"),
    Trait("take_lift_per_s", (0.35, 0.012, 0.004), "1/s", "how readily it takes a slowly rising lure it touches"),
    Trait("take_pause_per_s", (0.35, 0.16, 0.03), "1/s", "how readily it takes in a pause"),
    Trait("wanders_off_per_s", (0.03, 0.06, 0.06), "1/s", "leaves for reasons of its own: not every look is a chance"),
    Trait("bold_spread", (0.35, 0.4, 0.3), "1", "how much one fish is bolder or shyer than the next (log-normal)"),
    Trait("stays_s", (70.0, 45.0, 20.0), "s", "after this long without taking it tires of looking"),
    Trait("rises_m", (4.5, 2.4, 0.8), "m", "how far above its own depth it follows: each day has its height", PRACTICE),
    Trait("company_draw_per_s", (0.12, 0.14, 0.06), "1/s", "keener, with another fish at the lure", PRACTICE),
    Trait("shy_after_miss", (0.35, 0.6, 0.9), "1", "caution learned from a bite that was missed"),
    Trait("back_after_miss", (0.7, 0.3, 0.05), "1", "share that stay after a bite that was missed"),
)

BY_SPECIES: tuple[Trait, ...] = (
    Trait("cruise_m_s", (0.16, 0.20, 0.22, 0.08, 0.10), "m/s", "swimming by"),
    Trait("follow_m_s", (0.10, 0.13, 0.18, 0.06, 0.05), "m/s", "how fast it keeps up with a lure that climbs"),
    Trait("stand_off_m", (0.30, 0.25, 0.38, 0.18, 0.15), "m", "where one that is only curious stops below the lure"),
    Trait("comfort_m", (0.22, 0.18, 0.28, 0.12, 0.10), "m", "a lure nearer than this is in its face"),
    Trait(
        "night_sight", (0.45, 0.25, 0.35, 1.0, 0.3), "1", "share of its range left at night; burbot find food by smell"
    ),
    Trait(
        "pound_calls", (0.30, 0.10, 0.30, 0.55, 0.05), "1", "share of fish in hearing that one thump calls", PRACTICE
    ),
    Trait("holds_s", (1.4, 1.2, 1.6, 2.6, 0.4), "s", "how long it keeps a lure in its mouth"),
    Trait("mouth_n", (14.0, 15.0, 30.0, 40.0, 2.0), "N", "pull at which a hook tears out of its mouth"),
    Trait("tap_share", (0.5, 0.7, 0.3, 0.1, 1.0), "1", "bites felt as a tap", PRACTICE),
    Trait(
        "slack_share", (0.3, 0.1, 0.15, 0.0, 0.0), "1", "bites in which it swims up and the line goes slack", PRACTICE
    ),
)

# How much of a fish's sight the water leaves. Common practice: in murky water lures are seen from close by only.
CLEAR_SIGHT = {"clear": 1.0, "stained": 0.75, "murky": 0.5, "plankton": 0.65}


@dataclass(frozen=True)
class FishTraits:
    """The numbers of BY_MOOD and BY_SPECIES for some fish, each an array (fish,) in the units of the tables."""

    numbers: dict[str, Floats]

    def __getattr__(self, name: str) -> Floats:
        try:
            return self.numbers[name]
        except KeyError:
            raise AttributeError(name) from None

    def __getstate__(self) -> dict[str, Floats]:
        return self.numbers

    def __setstate__(self, state: dict[str, Floats]) -> None:
        object.__setattr__(self, "numbers", state)


@lru_cache(maxsize=64)
def species_traits(species: str, mood: str) -> dict[str, float]:
    """The numbers for one species in one mood. Raises ValueError naming what is accepted."""
    m = MOODS.index(one_of("mood", mood, MOODS))
    s = SPECIES.index(one_of("species", species, SPECIES))
    return {one.name: one.values[m] for one in BY_MOOD} | {one.name: one.values[s] for one in BY_SPECIES}


def fish_traits(fish: Sequence[tuple[str, str]]) -> FishTraits:
    """The numbers for many fish, each a species and a mood."""
    rows = [species_traits(species, mood) for species, mood in fish]
    names = [one.name for one in (*BY_MOOD, *BY_SPECIES)]
    return FishTraits({name: np.array([row[name] for row in rows], dtype=np.float64) for name in names})


def page() -> str:
    """`docs/behaviour.md`: every number with its unit, value and reason."""
    out = [
        "# How the fish behave",
        "",
        "Every number of the fish model of `core/fish`, made from the tables in `core/fish/traits.py` by",
        "`python -m tools.behaviour_page`. *Common practice* is what anglers agree on, without a published source;",
        "*invented* is ours, there to be argued with. Nothing here is measured on real fish: it is a sparring partner.",
        "",
        "A fish passes by, may notice a lure, comes and stops below it, grows keener or cools with what the lure does,",
        "follows it up to its own highest depth and never beyond, takes, holds the lure a second or two, and lets go",
        "or is hooked. A day has a mood, a rise line (no fish follows above it), and its own answer to two questions",
        "on which practice is divided: whether a lure in a fish's face draws or drives it, and whether pounding the",
        "bottom helps. Both lie between -1 and 1 and are drawn with the day.",
        "",
    ]
    tables = (
        ("For all fish", ALL, ("value",)),
        ("By the day's mood", BY_MOOD, MOODS),
        ("By species", BY_SPECIES, SPECIES),
    )
    for title, traits, columns in tables:
        out += [f"## {title}", "", f"| number | {' | '.join(columns)} | unit | reason | source |"]
        out += ["|---" * (len(columns) + 4) + "|"]
        for one in traits:
            values = " | ".join(f"{value:g}" for value in one.values)
            out.append(f"| `{one.name}` | {values} | {one.unit} | {one.reason} | {one.source} |")
        out.append("")
    out += ["## Sight", "", "| water | share of sight left |", "|---|---|"]
    out += [f"| {name} | {share:g} |" for name, share in CLEAR_SIGHT.items()]
    out += ["", "Invented, after the common practice that lures are seen from close by only in murky water.", ""]
    return "\n".join(out)
