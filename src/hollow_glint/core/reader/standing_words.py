"""What stands in the picture, in words: the bottom and what it is made of, the water and what fills it."""

from __future__ import annotations

from ..wording import Quantity, Sentence
from .bottom_hardness import BottomFit
from .column import Standing
from .report import BottomReading, Hardness


def bottom_reading(bottom_m: float, standing: Standing, fit: BottomFit, row_m: float) -> BottomReading:
    """The bottom at `bottom_m` [m from the face] in rows of `row_m` [m], with the reasons."""
    tail, second = standing.tail_m, standing.second_m
    # Its sound comes back by way of the ice only from a hard one.
    hardness: Hardness = "hard" if second is not None else fit.hardness
    because = [Sentence("It stays lit for {tail} below its edge.", {"tail": Quantity(tail, "m")})]
    because.append(Sentence(f"Of all kinds of bottom, {fit.kind} would paint it most like this."))
    if second is not None:
        because.append(Sentence("A second echo stands at {at}.", {"at": Quantity(second, "m")}))
    restless = standing.restless_m > max(0.035, 1.2 * row_m)
    if restless:
        because.append(Sentence("Its edge moves by {by}.", {"by": Quantity(standing.restless_m, "m")}))
    if standing.weed_top_m is not None:
        because.append(
            Sentence("Something stands on it, {up} high.", {"up": Quantity(bottom_m - standing.weed_top_m, "m")})
        )
    return BottomReading(bottom_m, hardness, tail, second, restless, standing.weed_top_m, tuple(because))


def water_words(standing: Standing, face_depth_m: float) -> tuple[Sentence, ...]:
    """What fills the water besides marks, for a face at `face_depth_m` [m]."""
    face = face_depth_m
    out: list[Sentence] = []
    for layer in standing.layers:
        values = {
            "top": Quantity(face + layer.top_m, "m"), "bottom": Quantity(face + layer.bottom_m, "m"),
            "share": Quantity(100.0 * layer.share, "percent"),
        }  # fmt: skip
        out.append(Sentence("Specks from {top} to {bottom}, {share} lit: plankton, bait or too much gain.", values))
    if standing.company:
        what = {"n": Quantity(standing.foreign_per_s, "count")}
        if standing.foreign_step_m is not None:
            text = "A neighbour's marks: {n} a second live for one ping, and they drift {step} a ping."
            out.append(Sentence(text, {**what, "step": Quantity(abs(standing.foreign_step_m), "m")}))
        else:
            out.append(Sentence("{n} marks a second live for one ping: a neighbour's, or electrical noise.", what))
    if standing.struck > 0.02:
        share = {"share": Quantity(100.0 * standing.struck, "percent")}
        out.append(Sentence("Electrical noise lights {share} of pings from end to end.", share))
    if standing.clutter_end_m > 0.3:
        out.append(Sentence("Surface clutter down to {end}.", {"end": Quantity(face + standing.clutter_end_m, "m")}))
    return tuple(out)
