"""The Read step's photos: a photo of the user's own screen, read into levels and into a recording. What comes in is
looked at and let go; nothing of it is kept unless that is asked for."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from flask import Response

from ...core.checks import Floats, InputError
from ...core.photo.colour import light_of_hex
from ...core.photo.corners import find_corners
from ...core.photo.ladder_steps import check_ladder
from ...core.photo.perspective import Outline
from ...core.photo.photo_recording import Shown, cells_for, recording_of
from ...core.photo.screen_photo import read_photo
from ...core.reader import recording_reader
from ...formats.photo_file import PhotoPixels, bare_jpeg, read_photo_file
from ...formats.recording_csv import DIGITS
from ...store import holes, lures, photos, recordings, units
from ..blueprint import StepBlueprint
from ..contract import BODY, UnitPath, answers, plain
from ..database import database
from .photo_contract import (
    CornersOut,
    LadderAsked,
    LadderColours,
    LevelsForm,
    LevelsOut,
    PhotoAlone,
    RecordingForm,
    ScreenColoursOut,
)
from .recording_contract import RecordingOut, RecordingPath
from .recordings import notes_of

api = StepBlueprint("photos", __name__, "Photos")
ON_NO_HOLE_M = 0.5  # where a face hangs when nobody says at which hole
MIDDLE = ((0.15, 0.15), (0.85, 0.15), (0.85, 0.85), (0.15, 0.85))  # where corners wait to be dragged from


def outline_of(photo: PhotoPixels, corners: list[list[float]]) -> Outline:
    """The picture's outline among the pixels that were decoded. Raises ValueError for corners that are none."""
    # Checked in the file's own pixels, so that what is said of them is what was sent.
    Outline(tuple((x, y) for x, y in corners), photo.width, photo.height)
    high, wide = photo.pixels.shape[:2]
    return Outline(tuple((x / photo.coarser, y / photo.coarser) for x, y in corners), wide, high)


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
    try:
        found = find_corners(photo.pixels)
    except InputError:
        corners = [[x * photo.width, y * photo.height] for x, y in MIDDLE]
        return plain({"width": photo.width, "height": photo.height, "corners": corners, "found": False}, CornersOut)
    corners = (found * photo.coarser).tolist()
    return plain({"width": photo.width, "height": photo.height, "corners": corners, "found": True}, CornersOut)


@api.post("/photo/recordings", responses=answers(201, RecordingOut, 404, *BODY))
def keep_photo_recording(form: RecordingForm) -> tuple[dict[str, Any], int]:
    """Read a photo of a screen and keep what it shows as a recording; the photo itself only if that is asked for."""
    about, store = form.about, database()
    check_depths(about.top_m, about.bottom_m)
    unit = units.get(store, about.unit_id).profile
    lure = None if about.lure_id is None else lures.get(store, about.lure_id).lure
    face_depth_m = ON_NO_HOLE_M if about.hole_id is None else holes.get(store, about.hole_id).hole.face_depth_m
    if about.ladder >= len(unit.ladders):
        raise InputError(f"ladder is {about.ladder}: accepted are 0 to {len(unit.ladders) - 1}")
    shown = Shown(about.top_m, about.bottom_m, about.seconds, unit, about.ladder, about.gain, face_depth_m, lure)
    steps = len(unit.ladders[about.ladder].steps)
    if len(about.colours) != steps:
        raise InputError(f"colours has {len(about.colours)} entries: this ladder of the unit has {steps} steps")
    shown.settings  # noqa: B018 - refused before the photo is worked on
    colours = ladder_light(about)
    photo = read_photo_file(form.photo.read())
    outline = outline_of(photo, about.corners)
    read = read_photo(photo.pixels, outline, colours, *cells_for(outline, shown), about.newest == "right")
    recording = recording_of(read, shown, about.name, about.started_at)
    found = recording_reader.moments_in(recording)
    recording = replace(recording, notes=notes_of(found, recording))
    kept = recordings.add(store, recording, about.hole_id, list(recording.missing))
    if about.keep_photo:
        photos.keep(store, kept.id, bare_jpeg(photo))
    if about.keep_colours:
        seen = photos.ScreenColours(about.dark, tuple(about.colours))
        photos.keep_colours(store, about.unit_id, about.ladder, seen)
    return plain(kept, RecordingOut), 201


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
