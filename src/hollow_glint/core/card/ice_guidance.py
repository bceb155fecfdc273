"""The ice figure that someone typed, beside public guidance and the classic load rule. Never a word that it is safe.

No ice is safe ice: measure as you go. Thickness says little about cracks, currents, springs, thaw, snow or age; local
authorities and local rules decide. Nothing else in the program depends on what is said here.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import number, one_of

ICE_KINDS: dict[str, str] = {"clear": "clear", "white": "white", "layered": "layered"}
INCH = 0.0254  # m, exact
# General public guidance for new, clear ice on still fresh water [m]: least and fullest figure. Values from memory;
# authorities differ, and their own word goes before this.
GUIDANCE: tuple[tuple[str, float, float], ...] = (
    ("on foot", 4 * INCH, 4 * INCH),
    ("snowmobile", 5 * INCH, 7 * INCH),
    ("car", 8 * INCH, 12 * INCH),
    ("light truck", 12 * INCH, 15 * INCH),
)
WHITE_COUNTS = 0.5  # white ice counts half; of layered or unknown ice as much may be white. From memory
# P = A h^2 with A = 50 lb per square inch, its cautious end: 3.5 kg for each square centimetre [kg/m^2]. Gold 1971,
# Canadian Geotechnical Journal 8, 170; value from memory.
GOLD_A_KG_M2 = 50.0 * 0.45359237 / INCH**2


@dataclass(frozen=True)
class GuidanceRow:
    """One line of guidance: what for, the span of clear ice it speaks of [m], whether our figure lies below it."""

    use: str
    least_m: float
    fullest_m: float
    below: bool


@dataclass(frozen=True)
class IceWord:
    """What can be said of an ice figure: as typed [m], as clear ice it counts for [m], guidance, the rule's load [kg].

    rule_kg   what P = A h^2 gives; it holds at best for sound, unbroken clear ice well below freezing and for loads
              that move on; not for parked or repeated loads, cracks, current, thaw, snow load or slush
    """

    thickness_m: float
    counts_as_m: float
    kind_known: bool
    guidance: tuple[GuidanceRow, ...]
    rule_kg: float


def counts_as(thickness_m: float, kind: str | None) -> float:
    """Thickness [m] of clear ice that `thickness_m` [m, 0 to 3] of `kind` counts for; None (unknown) counts as white.

    Raises ValueError outside the span or for another kind. Public guidance, from memory.
    """
    thick = number("ice_thickness_m", thickness_m, 0.0, 3.0, "m")
    if kind is not None:
        one_of("ice_kind", kind, tuple(ICE_KINDS))
    return thick if kind == "clear" else thick * WHITE_COUNTS


def load_rule(thickness_m: float) -> float:
    """Load [kg] that P = A h^2 gives for `thickness_m` [m] of clear ice. Source: Gold 1971, cautious A."""
    return GOLD_A_KG_M2 * number("ice_thickness_m", thickness_m, 0.0, 3.0, "m") ** 2


def ice_word(thickness_m: float, kind: str | None) -> IceWord:
    """The figure beside the guidance. Raises as `counts_as`."""
    clear = counts_as(thickness_m, kind)
    beside = tuple(GuidanceRow(use, least, fullest, clear < fullest - 1e-9) for use, least, fullest in GUIDANCE)
    return IceWord(thickness_m, clear, kind is not None, beside, load_rule(clear))
