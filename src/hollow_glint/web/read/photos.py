"""The Read step's photos: a photo of the user's own screen, read into levels and into a recording. What comes in is
looked at and let go; nothing of it is kept unless that is asked for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from flask import Response
from flask_openapi3 import FileStorage

from ...core.checks import Floats, InputError
from ...core.photo.colour import light_of_hex
from ...core.photo.corners import find_corners
from ...core.photo.ladder_steps import check_ladder
from ...core.photo.perspective import Outline, Pixels, as_outline
from ...core.photo.photo_recording import HELD_S, ONE_PING, Shown, cells_for, held, recording_of
from ...core.photo.ring import Ring
from ...core.photo.ring_finder import find_ring
from ...core.photo.ring_photo import read_rings
from ...core.photo.screen_photo import PhotoRead, read_photo
from ...core.reader import recording_reader
from ...formats.photo_file import PhotoPixels, bare_jpeg, read_photo_file
from ...formats.recording_csv import DIGITS
from ...store import holes, lures, photos, recordings, units
from ..blueprint import StepBlueprint
from ..contract import BODY, UnitPath, answers, plain
from ..database import database
from ..working import teller
from .photo_contract import (
    LONGEST_SHOWN_S,
    AboutShown,
    CornersOut,
    LadderAsked,
    LadderColours,
    LevelsForm,
    LevelsOut,
    PhotoAlone,
    RecordingForm,
    RingForm,
    RingFoundOut,
    ScreenColoursOut,
)
from .recording_contract import RecordingOut, RecordingPath
from .recordings import notes_of

api = StepBlueprint("photos", __name__, "Photos")
ON_NO_HOLE_M = 0.5  # where a face hangs when nobody says at which hole
MIDDLE = ((0.15, 0.15), (0.85, 0.15), (0.85, 0.85), (0.15, 0.85))  # where corners wait to be dragged from


def outline_of(photo: PhotoPixels, corners: list[list[float]], called: str = "corners") -> Outline:
    """The picture's outline among the pixels that were decoded. Raises ValueError for corners that are none."""
    # Checked in the file's own pixels, so that what is said of them is what was sent.
    as_outline(corners, photo.width, photo.height, called)
    high, wide = photo.pixels.shape[:2]
    return as_outline([[one / photo.coarser for one in corner] for corner in corners], wide, high, called)


def ladder_light(told: LadderColours) -> Floats:
    """The light of dark water and of each step. Raises ValueError when no photo could tell them apart."""
    colours = light_of_hex("colours", [told.dark, *told.colours])
    check_ladder(colours)
    return colours


def check_depths(top_m: float, bottom_m: float) -> None:
    """Raise ValueError for a scale that stands on its head."""
    if bottom_m <= top_m:
        raise InputError(f"bottom_m is {bottom_m:g} m: accepted is a depth below top_m, which is {top_m:g} m")


@api.post("/photo/levels", responses=answers(200, LevelsOut, *BODY))
def read_levels(form: LevelsForm) -> dict[str, Any]:
    """The levels that a photo of a scrolling screen shows, ping by ping. Stores nothing."""
    about = form.about
    check_depths(about.top_m, about.bottom_m)
    colours = ladder_light(about)
    photo = read_photo_file(form.photo.read())
    outline = outline_of(photo, about.corners)
    read = read_photo(photo.pixels, outline, colours, about.rows, about.pings, about.newest == "right")
    digits = np.array(list(DIGITS))
    return plain({"levels": ["".join(row) for row in digits[read.levels]], "unsure": read.spots()}, LevelsOut)


@api.post("/photo/corners", responses=answers(200, CornersOut, *BODY))
def find_photo_corners(form: PhotoAlone) -> dict[str, Any]:
    """Where the picture seems to stand in a photo. Stores nothing."""
    photo = read_photo_file(form.photo.read())
    told: dict[str, Any] = {"width": photo.width, "height": photo.height}
    try:
        found = find_corners(photo.pixels)
    except InputError:
        corners = [[x * photo.width, y * photo.height] for x, y in MIDDLE]
        return plain({**told, "corners": corners, "found": False, "sure": False}, CornersOut)
    corners = [[x * photo.coarser, y * photo.coarser] for x, y in found.outline.corners]
    return plain({**told, "corners": corners, "found": True, "sure": found.sure}, CornersOut)


@api.post("/photo/ring", responses=answers(200, RingFoundOut, *BODY))
def find_photo_ring(form: PhotoAlone) -> dict[str, Any]:
    """Where a dial's ring seems to stand in a photo. Stores nothing."""
    photo = read_photo_file(form.photo.read())
    told: dict[str, Any] = {"width": photo.width, "height": photo.height}
    try:
        found = find_ring(photo.pixels)
    except InputError:
        reach = 0.34 * min(photo.width, photo.height)
        rim = [
            [photo.width / 2 + x * reach, photo.height / 2 + y * reach] for x, y in ((0, -1), (1, 0), (0, 1), (-1, 0))
        ]
        return plain({**told, "rim": rim, "inner": 0.6, "found": False}, RingFoundOut)
    return plain(
        {**told, "rim": (found.rim * photo.coarser).tolist(), "inner": found.inner, "found": True}, RingFoundOut
    )


def shown_on(about: AboutShown, seconds: float) -> Shown:
    """What is said of a photographed screen, checked before the photo is worked on. Raises NotFound and ValueError."""
    store = database()
    check_depths(about.top_m, about.bottom_m)
    unit = units.get(store, about.unit_id).profile
    lure = None if about.lure_id is None else lures.get(store, about.lure_id).lure
    face_depth_m = ON_NO_HOLE_M if about.hole_id is None else holes.get(store, about.hole_id).hole.face_depth_m
    if about.ladder >= len(unit.ladders):
        raise InputError(f"ladder is {about.ladder}: accepted are 0 to {len(unit.ladders) - 1}")
    shown = Shown(about.top_m, about.bottom_m, seconds, unit, about.ladder, about.gain, face_depth_m, lure)
    steps = len(unit.ladders[about.ladder].steps)
    if len(about.colours) != steps:
        raise InputError(f"colours has {len(about.colours)} entries: this ladder of the unit has {steps} steps")
    shown.settings  # noqa: B018 - refused before the photo is worked on
    return shown


def kept_of(read: PhotoRead, shown: Shown, about: AboutShown, photo: PhotoPixels, more: tuple[str, ...] = ()) -> Any:
    """What was read kept as a recording, the photo itself and the colours only where that is asked for."""
    store = database()
    recording = recording_of(read, shown, about.name, about.started_at)
    found = recording_reader.moments_in(recording)
    recording = replace(recording, notes=notes_of(found, recording))
    kept = recordings.add(store, recording, about.hole_id, [*recording.missing, *more])
    if about.keep_photo:
        photos.keep(store, kept.id, bare_jpeg(photo))
    if about.keep_colours:
        seen = photos.ScreenColours(about.dark, tuple(about.colours))
        photos.keep_colours(store, about.unit_id, about.ladder, seen)
    return plain(kept, RecordingOut)


@api.post("/photo/recordings", responses=answers(201, RecordingOut, 404, *BODY))
def keep_photo_recording(form: RecordingForm) -> tuple[dict[str, Any], int]:
    """Read a photo of a screen and keep what it shows as a recording; the photo itself only if that is asked for."""
    about = form.about
    shown, colours = shown_on(about, about.seconds), ladder_light(about)
    photo = read_photo_file(form.photo.read())
    outline = outline_of(photo, about.corners)
    read = read_photo(photo.pixels, outline, colours, *cells_for(outline, shown), about.newest == "right")
    return kept_of(read, shown, about, photo), 201


def one_of_them(files: list[FileStorage], which: int) -> PhotoPixels:
    """One of several photos. Raises ValueError that says which of them is none."""
    try:
        return read_photo_file(files[which].read())
    except InputError as wrong:
        raise InputError(f"photos: number {which + 1} of {len(files)}: {wrong}") from None


@api.post("/photo/ring-recordings", responses=answers(201, RecordingOut, 404, *BODY))
def keep_ring_recording(form: RingForm) -> tuple[dict[str, Any], int]:
    """Read photos of a dial, or a film of one picture by picture, and keep what they show as a recording: a ping a
    photo. Of the photos the first alone is kept, if that is asked for."""
    about, files = form.about, form.photos
    seconds = about.seconds if len(files) > 1 else HELD_S
    if seconds < 1.0:
        raise InputError(
            f"seconds is {seconds:g}: from the first photo to the last 1 to {LONGEST_SHOWN_S:g} are accepted"
        )
    shown, colours = shown_on(about, seconds), ladder_light(about)
    first = one_of_them(files, 0)
    ring = Ring(outline_of(first, about.rim, "rim"), about.scale, about.inner, about.clockwise)
    tell = teller()

    def pictures() -> Iterator[Pixels]:
        yield first.pixels
        for k in range(1, len(files)):
            tell(k / len(files))
            yield one_of_them(files, k).pixels

    read = read_rings(pictures(), len(files), ring, colours, shown.unit.rows)
    if len(files) > 1:
        return kept_of(read, shown, about, first), 201
    return kept_of(held(read), shown, about, first, (ONE_PING,)), 201


@api.get("/recordings/<int:recording_id>/photo", responses=answers(200, None, 404))
def get_photo(path: RecordingPath) -> Response:
    """The photo that was kept beside a recording."""
    return Response(photos.get(database(), path.recording_id), mimetype="image/jpeg")


@api.get("/units/<int:unit_id>/screen-colours", responses=answers(200, ScreenColoursOut, 404, 422))
def get_screen_colours(path: UnitPath, query: LadderAsked) -> dict[str, Any]:
    """How a ladder of a unit looks on its screen: as somebody pointed at it once, else as this program draws it."""
    unit = units.get(database(), path.unit_id).profile
    if query.ladder >= len(unit.ladders):
        raise InputError(f"ladder is {query.ladder}: accepted are 0 to {len(unit.ladders) - 1}")
    seen = photos.colours_of(database(), path.unit_id, query.ladder)
    if seen is None or len(seen.colours) != len(unit.ladders[query.ladder].steps):
        dark, *colours = unit.ladders[query.ladder].colours("lantern")
        return plain({"dark": dark, "colours": colours, "pointed_at": False}, ScreenColoursOut)
    return plain({"dark": seen.dark, "colours": seen.colours, "pointed_at": True}, ScreenColoursOut)
