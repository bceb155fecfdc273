"""A camera on its cable, as a size reference: a housing and its lens."""

from __future__ import annotations

from ..form import Form
from . import minnow

# A short cylinder that hangs level, as a minnow bait does, but on a stiff cable: it does not glide.
FORM = Form(
    "camera", "Camera, as a size reference", 6, minnow.answers, (0.001, 0.04), length_m=(0.02, 0.15),
    length_words="Length of housing", sinks_as_m=0.003,
)  # fmt: skip
