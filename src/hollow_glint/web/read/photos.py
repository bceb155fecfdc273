"""The Read step's photos: a photo of the user's own screen, read into levels and into a recording. What comes in is
looked at and let go; nothing of it is kept unless that is asked for."""

from __future__ import annotations

from typing import Any

import numpy as np

from ...core.checks import InputError
from ...core.photo.colour import light_of_hex
from ...core.photo.ladder_steps import check_ladder
from ...core.photo.perspective import Outline
from ...core.photo.screen_photo import PhotoRead, read_photo
from ...formats.photo_file import PhotoPixels, read_photo_file
from ...formats.recording_csv import DIGITS
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from .photo_contract import AboutScreen, LevelsForm, LevelsOut

api = StepBlueprint("photos", __name__, "Photos")


def photo_read(photo: PhotoPixels, about: AboutScreen) -> PhotoRead:
    """The levels of a photographed screen. Raises ValueError with what is wrong."""
    if about.bottom_m <= about.top_m:
        raise InputError(
            f"bottom_m is {about.bottom_m:g} m: accepted is a depth below top_m, which is {about.top_m:g} m"
        )
    colours = light_of_hex("colours", [about.dark, *about.colours])
    check_ladder(colours)
    # Checked in the file's own pixels, so that what is said of them is what was sent.
    Outline(tuple((x, y) for x, y in about.corners), photo.width, photo.height)
    high, wide = photo.pixels.shape[:2]
    corners = tuple((x / photo.coarser, y / photo.coarser) for x, y in about.corners)
    return read_photo(
        photo.pixels, Outline(corners, wide, high), colours, about.rows, about.pings, about.newest == "right"
    )


@api.post("/photo/levels", responses=answers(200, LevelsOut, *BODY))
def read_levels(form: LevelsForm) -> dict[str, Any]:
    """The levels that a photo of a scrolling screen shows, ping by ping. Stores nothing."""
    read = photo_read(read_photo_file(form.photo.read()), form.about)
    digits = np.array(list(DIGITS))
    return plain({"levels": ["".join(row) for row in digits[read.levels]], "unsure": read.spots()}, LevelsOut)
