"""The verdict on weeds that read as a bottom."""

from __future__ import annotations

import numpy as np

from ...acoustics.targets import fish_target_strength
from ...sonar import ping
from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule

WEEDS_OVER_FISH_DB = -12.0  # weeds as loud as this against a fish of 30 cm hide it


@rule("weeds read as bottom")
def weeds_read_as_bottom(s: Situation) -> Verdict | None:
    t, scene = s.transmission, s.scene
    if not t.weeds.any():
        return None
    strongest = int(np.argmax(t.weeds))
    weeds_db = 10.0 * np.log10(t.weeds[strongest])
    a_fish = ping.target_echo_level(
        t, float(fish_target_strength(0.3, t.frequency_hz)), scene.face_depth_m + float(t.bin_range_m[strongest])
    )
    if weeds_db < s.first_colour() or weeds_db - a_fish < WEEDS_OVER_FISH_DB:
        return None
    values = {
        "top": Quantity(scene.weed_top_m - scene.face_depth_m, "m"),
        "bottom": Quantity(scene.bottom_range_m, "m"),
        "over": Quantity(weeds_db - a_fish, "dB"),
    }
    pulses = [one.duration_s for one in s.unit.pulses]
    shortest = int(np.argmin(pulses))
    if pulses[shortest] < 0.9 * pulses[s.settings.pulse]:
        gained = 10.0 * np.log10(pulses[s.settings.pulse] / pulses[shortest])
        return Verdict(
            "weeds read as bottom",
            3.2,
            "What looks like bottom at {top} is the top of weeds; the bottom is at {bottom}. Take the shorter pulse.",
            "The short pulse fills less weed at once: the weeds weaken by {gained}, a fish among them does not.",
            values | {"gained": Quantity(float(gained), "dB")},
            Change("pulse", shortest),
        )
    lower = [i for i, power in enumerate(s.unit.powers_w) if power < s.unit.powers_w[s.settings.power]]
    to = max(lower, key=lambda i: s.unit.powers_w[i], default=s.settings.power)
    # Less power must leave gain enough to show the lure, or the next thing to say would be to take it back.
    if lower and (not s.lure_down or s.window_with(power=to).floor <= s.unit.gain.maximum):
        return Verdict(
            "weeds read as bottom",
            3.1,
            "What looks like bottom at {top} is the top of weeds; the bottom is at {bottom}. Take less power.",
            "With less power only the strong echoes are left, and a thick stand opens into stems.",
            values,
            Change("power", to),
        )
    return None
