"""Verdicts on how the transducer hangs."""

from __future__ import annotations

import numpy as np

from ...acoustics import beam
from ...sonar import transmission
from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule

PLUMB_DEG = 2.0  # nobody hangs it straighter by eye
SWAY_DEG = 4.0  # how far a transducer without its float swings. Common practice, no source


@rule("inside the ice")
def inside_the_ice(s: Situation) -> Verdict | None:
    deep = s.scene.inside_ice_m
    if deep <= 0.0:
        return None
    clear = min(max(s.scene.ice_thickness_m, s.scene.slush_m) + 0.05, s.scene.bottom_depth_m - 0.25)
    if clear <= s.scene.face_depth_m:
        return None
    return Verdict(
        "inside the ice",
        6.0,
        "The transducer hangs {deep} up inside the hole. Lower it to {clear}.",
        "The ice round it throws its own sound back, and what leaves the hole is cut to a narrow cone.",
        {"deep": Quantity(deep, "m"), "clear": Quantity(clear, "m")},
        Change("face_depth_m", round(clear, 3)),
    )


@rule("dry face")
def dry_face(s: Situation) -> Verdict | None:
    if s.scene.face_wet:
        return None
    return Verdict(
        "dry face",
        5.5,
        "The transducer's face is dry: every echo is {loss} too weak. Rub it wet.",
        "A film of air clings to a dry face and shuts sound out and in.",
        {"loss": Quantity(2.0 * transmission.DRY_FACE_DB, "dB")},
        Change("face_wet", True),
    )


@rule("off plumb")
def off_plumb(s: Situation) -> Verdict | None:
    tilt = s.scene.tilt_deg
    if tilt <= PLUMB_DEG:
        return None
    below = max(s.lure_depth_m - s.scene.face_depth_m, 1.0)
    loss = -2.0 * float(beam.directivity(np.radians(tilt), s.transmission.ka))
    return Verdict(
        "off plumb",
        5.0,
        "The transducer hangs {tilt} off plumb: it looks {aside} past your lure. Let it hang straight.",
        "The bottom still shows, for it is everywhere; what hangs under the hole loses {loss}.",
        {
            "tilt": Quantity(tilt, "degrees"),
            "aside": Quantity(below * float(np.tan(np.radians(tilt))), "m"),
            "loss": Quantity(loss, "dB"),
        },
        Change("tilt_deg", 0.0),
    )


@rule("swinging")
def swinging(s: Situation) -> Verdict | None:
    if s.scene.on_float:
        return None
    return Verdict(
        "swinging",
        4.8,
        "The transducer swings on its cable, {sway} to either side. Hang it on its float.",
        "As the beam sways, the marks of lure and fish come and go though neither moves.",
        {"sway": Quantity(SWAY_DEG, "degrees")},
        Change("on_float", True),
    )
