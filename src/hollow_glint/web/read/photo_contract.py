"""The contract of photos of screens: what comes with one, and what is read from it."""

from __future__ import annotations

from typing import Annotated, Literal

from flask_openapi3 import FileStorage
from pydantic import Field

from ...core.photo.ring import LEAST_INNER, LEAST_SCALE, MOST_INNER
from ...core.photo.ring_photo import MOST_PICTURES
from ...core.reader.recording import DEEPEST_SHOWN_M
from ...formats.fields import Name
from ...formats.mirror import Described, Given, Number, Whole
from ..contract import RowId

MOST_SIDE = 1024
LONGEST_SHOWN_S = 7200.0

Colour = Annotated[
    str,
    Field(pattern=r"^#[0-9a-fA-F]{6}$", json_schema_extra={"x-accepted": "a colour as #1a2b3c"}),
]
Corner = Annotated[list[Number], Field(min_length=2, max_length=2)]


class LadderColours(Given):
    """How the steps of a unit's ladder look on its screen."""

    dark: Colour = Field(description="The colour of dark water")
    colours: list[Colour] = Field(min_length=2, max_length=32, description="The colours of its steps, weakest first")


class AboutScreen(LadderColours):
    """What is said of a photo of a scrolling screen."""

    corners: list[Corner] = Field(
        min_length=4, max_length=4, description="The picture's corners in the photo [px], from the top left clockwise"
    )
    top_m: Number = Field(ge=0.0, le=DEEPEST_SHOWN_M, description="What depth the picture's top shows")
    bottom_m: Number = Field(ge=0.0, le=DEEPEST_SHOWN_M, description="What depth its foot shows")
    seconds: Number = Field(gt=0.0, le=LONGEST_SHOWN_S, description="How long the picture is, from side to side [s]")
    rows: Whole = Field(ge=16, le=MOST_SIDE)
    pings: Whole = Field(ge=2, le=MOST_SIDE)
    newest: Literal["left", "right"] = Field("right", description="At which side the newest ping stands")


class PhotoAlone(Described):
    """A photo's file."""

    photo: FileStorage


class CornersOut(Described):
    """Where the picture seems to stand in a photo: a guess, to be looked at."""

    width: int
    height: int
    corners: list[tuple[float, float]] = Field(description="From the top left clockwise [px]; those of the photo's "
                                               "middle where nothing with four straight edges was found")  # fmt: skip
    found: bool
    sure: bool = Field(description="Whether they are likely right within 1 % of the width")


class RingFoundOut(Described):
    """Where a ring seems to stand in a photo: a guess, to be looked at."""

    width: int
    height: int
    rim: list[tuple[float, float]] = Field(
        description="Its outer rim's uppermost place and those at each quarter of a turn clockwise from there [px]; "
        "those of a circle in the photo's middle where no ring was found"
    )
    inner: float = Field(description="The inner radius as a share of the outer")
    found: bool


class AboutShown(LadderColours):
    """What is said of any photo that is to become a recording."""

    name: Name
    top_m: Number = Field(ge=0.0, le=DEEPEST_SHOWN_M)
    bottom_m: Number = Field(ge=0.0, le=DEEPEST_SHOWN_M)
    unit_id: RowId
    ladder: Whole = Field(0, ge=0, le=31)
    gain: Number | None = Field(None, description="In the unit's own numbers")
    lure_id: RowId | None = None
    hole_id: RowId | None = None
    started_at: str = Field("", max_length=40, description="When the oldest ping was, UTC; empty when nobody knows")
    keep_photo: bool = Field(False, description="Whether the photo is kept beside the recording")
    keep_colours: bool = Field(True, description="Whether the colours are kept with the unit")


class AboutPhoto(AboutShown):
    """What is said of a photo of a scrolling screen that is to become a recording."""

    corners: list[Corner] = Field(min_length=4, max_length=4)
    seconds: Number = Field(ge=1.0, le=LONGEST_SHOWN_S)
    newest: Literal["left", "right"] = "right"


class AboutRing(AboutShown):
    """What is said of photos of a dial, or of a film of one picture by picture, that are to become a recording."""

    rim: list[Corner] = Field(
        min_length=4, max_length=4,
        description="The ring's outer rim in the first photo [px]: at its zero, and a quarter, a half and three "
        "quarters of a turn on, clockwise",
    )  # fmt: skip
    scale: Number = Field(1.0, ge=LEAST_SCALE, le=1.0, description="How much of a turn the picture takes")
    inner: Number = Field(0.6, ge=LEAST_INNER, le=MOST_INNER, description="The inner rim, as a share of the outer")
    clockwise: bool = Field(True, description="Which way depth runs from the zero")
    seconds: Number = Field(0.0, ge=0.0, le=LONGEST_SHOWN_S, description="From the first photo to the last [s]")


class RecordingForm(Described):
    """A photo's file, and what is said of it as JSON."""

    photo: FileStorage
    about: AboutPhoto


class RingForm(Described):
    """The photos' files, the oldest first, and what is said of them as JSON."""

    photos: list[FileStorage] = Field(min_length=1, max_length=MOST_PICTURES)
    about: AboutRing


class LadderAsked(Described):
    ladder: int = Field(0, ge=0, le=31)


class ScreenColoursOut(Described):
    """How a unit's ladder looks on its screen: as somebody pointed at it, or as this program draws it."""

    dark: str
    colours: list[str]
    pointed_at: bool


class LevelsForm(Described):
    """A photo's file, and what is said of it as JSON."""

    photo: FileStorage
    about: AboutScreen


class LevelsOut(Described):
    """What a photo shows."""

    levels: list[str] = Field(description="One string for each ping, oldest first, as in the CSV recording")
    unsure: list[tuple[int, int, int, int]] = Field(
        description="Where that is not sure: first ping, last ping, first row, last row"
    )
