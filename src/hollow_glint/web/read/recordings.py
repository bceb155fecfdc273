"""The Read step's recordings: kept from a live bench, replayed, noted on, given out and taken in as files."""

from __future__ import annotations

import secrets
import threading
import time
from dataclasses import asdict, dataclass, replace
from typing import Any

from flask import Response, current_app, request

from ...core.checks import InputError
from ...core.fields import from_fields
from ...core.gear.unit import unit_to_dict
from ...core.reader import recording_reader
from ...core.reader.mending import mending
from ...core.reader.recording import MOST_NOTES, Note, Recording
from ...core.reader.report import Moment
from ...formats import recording_csv, recording_nc
from ...store import holes, recordings
from ...store.database import Database
from ..bench.routes import find_bench
from ..blueprint import StepBlueprint
from ..contract import BODY, BenchPath, PingsOut, PingsWanted, Removed, answers, plain
from ..database import database
from ..files import attachment
from ..lives import packed
from ..problems import problem
from ..recent import Recent
from .recording_contract import (
    AtTime,
    FileAs,
    FileGiven,
    ImportOut,
    ImportPath,
    ImportState,
    MendingOut,
    NoteFields,
    NoteOut,
    NotePath,
    ReadingOut,
    RecordingList,
    RecordingOut,
    RecordingPath,
    RecordingWanted,
    RecordingWhole,
    reading_fields,
)

api = StepBlueprint("recordings", __name__, "Recordings")
MOST_IMPORTS = 3  # at once
KEPT_IMPORTS_S = 600.0


# The last few looked at; their pings never change, so only notes must not be taken from here.
_pictures: Recent[Recording] = Recent(2)


def _picture(recording_id: int) -> Recording:
    store = database()
    return _pictures.get((store, recording_id), lambda: recordings.picture(store, recording_id))


def pings_fields(recording: Recording, first: int, count: int) -> dict[str, Any]:
    """Pings of a recording as fields of `PingsOut`."""
    part = slice(first, min(first + count, recording.time_s.size))
    levels = recording.levels[part]
    return {
        "first": first, "count": levels.shape[0], "rows": levels.shape[1],
        "levels": packed(levels),
        **{name: getattr(recording, name)[part].tolist() for name in ("time_s", "top_m", "bottom_m", "line_in_m")},
    }  # fmt: skip


@api.get("/recordings", responses=answers(200, RecordingList))
def list_recordings() -> dict[str, Any]:
    """All recordings, newest first."""
    return {"recordings": [plain(one, RecordingOut) for one in recordings.every(database())]}


@api.post("/benches/<bench_id>/recording", responses=answers(201, RecordingOut, 404, *BODY))
def keep_recording(path: BenchPath, body: RecordingWanted) -> tuple[dict[str, Any], int]:
    """Keep what a live bench has shown in the last five minutes."""
    bench = find_bench(path.bench_id)
    if body.hole_id is not None:
        holes.get(database(), body.hole_id)
    recording = bench.recording(body.name)
    return plain(recordings.add(database(), recording, body.hole_id, []), RecordingOut), 201


@api.get("/recordings/<int:recording_id>", responses=answers(200, RecordingWhole, 404))
def get_recording(path: RecordingPath) -> dict[str, Any]:
    """A recording with its notes and settings; its pings are fetched by the hundred."""
    kept, picture = recordings.get(database(), path.recording_id), _picture(path.recording_id)
    notes = [{"id": one.id, **asdict(one.note)} for one in recordings.notes(database(), path.recording_id)]
    whole = {
        **vars(kept), "unit": unit_to_dict(picture.unit), "lure": picture.lure and asdict(picture.lure),
        "face_depth_m": picture.face_depth_m, "rows": picture.levels.shape[1], "notes": notes,
        "knobs": [{"ping": at, "settings": asdict(one)} for at, one in picture.settings],
    }  # fmt: skip
    return plain(whole, RecordingWhole)


@api.get("/recordings/<int:recording_id>/pings", responses=answers(200, PingsOut, 404, 422))
def get_pings(path: RecordingPath, query: PingsWanted) -> dict[str, Any]:
    """Pings of a recording."""
    return pings_fields(_picture(path.recording_id), query.first, query.count)


@api.get("/recordings/<int:recording_id>/reading", responses=answers(200, ReadingOut, 404, 422))
def get_reading(path: RecordingPath, query: AtTime) -> dict[str, Any]:
    """What the reader says at a time of a recording."""
    picture = _picture(path.recording_id)
    notes = tuple(one.note for one in recordings.notes(database(), path.recording_id))
    reading = recording_reader.reading_at(replace(picture, notes=notes), query.time_s)
    return plain(reading_fields(reading, None), ReadingOut)


@api.get("/recordings/<int:recording_id>/mending", responses=answers(200, MendingOut, 404))
def get_mending(path: RecordingPath) -> dict[str, Any]:
    """What would mend the picture at a recording's end, from the picture alone."""
    kept = recordings.get(database(), path.recording_id)
    # What nobody told, such as where the gain stood, is kept as remarks.
    picture = replace(_picture(path.recording_id), missing=tuple(kept.remarks))
    return plain(asdict(mending(picture)), MendingOut)


@api.get("/recordings/<int:recording_id>/file", responses=answers(200, None, 404, 422))
def give_recording(path: RecordingPath, query: FileAs) -> Response:
    """A recording as a file: netCDF-4 in the SONAR-netCDF4 convention, or CSV."""
    recording = recordings.picture(database(), path.recording_id)
    content = recording_csv.write(recording) if query.format == "csv" else recording_nc.write(recording)
    return attachment(content, recording.name, "recording", query.format)


@api.delete("/recordings/<int:recording_id>", responses=answers(200, Removed, 404))
def remove_recording(path: RecordingPath) -> dict[str, Any]:
    """Forget a recording."""
    removal = recordings.remove(database(), path.recording_id)
    _pictures.forget((database(), path.recording_id))
    return {"removal": removal}


@api.post("/recordings/<int:recording_id>/notes", responses=answers(201, NoteOut, 404, *BODY))
def write_note(path: RecordingPath, body: NoteFields) -> tuple[dict[str, Any], int]:
    """Write a note at a time and depth."""
    kept = recordings.write_note(database(), path.recording_id, from_fields(Note, body.model_dump(), "the note"))
    return plain({"id": kept.id, **asdict(kept.note)}, NoteOut), 201


@api.delete("/recordings/<int:recording_id>/notes/<int:note_id>", responses=answers(200, Removed, 404))
def remove_note(path: NotePath) -> dict[str, Any]:
    """Take a note away."""
    return {"removal": recordings.remove_note(database(), path.recording_id, path.note_id)}


@dataclass
class Import:
    """A file on its way in."""

    id: str
    state: ImportState = "reading"
    share: float = 0.0
    problem: str = ""
    recording: recordings.KeptRecording | None = None
    ended_at: float = 0.0


class Imports:
    """The files on their way in, at most MOST_IMPORTS at once; what came of each is remembered for a while."""

    def __init__(self) -> None:
        self._every: dict[str, Import] = {}
        self._lock = threading.Lock()

    def begin(self, database: Database, content: bytes, name: str, hole_id: int | None) -> Import | None:
        """Read a file in a thread of its own; None when too many are on their way."""
        with self._lock:
            now = time.monotonic()
            for old in [
                one for one in self._every.values() if one.state != "reading" and now - one.ended_at > KEPT_IMPORTS_S
            ]:
                del self._every[old.id]
            if sum(one.state == "reading" for one in self._every.values()) >= MOST_IMPORTS:
                return None
            job = Import(secrets.token_urlsafe(9))
            self._every[job.id] = job
        threading.Thread(target=self._run, args=(job, database, content, name, hole_id), daemon=True).start()
        return job

    def get(self, import_id: str) -> Import | None:
        """The import with this id."""
        with self._lock:
            return self._every.get(import_id)

    def _run(self, job: Import, database: Database, content: bytes, name: str, hole_id: int | None) -> None:
        try:
            job.recording = self._take(job, database, content, name, hole_id)
            job.share = 1.0
            job.state = "done"
        except InputError as wrong:
            job.problem, job.state = str(wrong)[:400].rstrip(".") + ".", "refused"
        except Exception:  # told to whoever asks: nobody waits on this thread
            job.problem, job.state = "The program met an error of its own. Nothing was kept.", "refused"
            raise
        finally:
            job.ended_at = time.monotonic()
            database.close()

    def _take(
        self, job: Import, database: Database, content: bytes, name: str, hole_id: int | None
    ) -> recordings.KeptRecording:
        reads = recording_csv.read if name.lower().endswith(".csv") else recording_nc.read
        recording, repaired = reads(content)
        job.share = 0.1

        def told(done: int, of: int) -> None:
            job.share = 0.1 + 0.85 * done / of

        if not any(one.by == "reader" for one in recording.notes):
            found = recording_reader.moments_in(recording, told)
            recording = replace(recording, notes=recording.notes + notes_of(found, recording))
        return recordings.add(database, recording, hole_id, [*recording.missing, *repaired])


def notes_of(moments: list[Moment], recording: Recording) -> tuple[Note, ...]:
    """The reader's moments as notes, as many as there is room for."""
    room = max(MOST_NOTES - len(recording.notes), 0) // 2
    return tuple(Note(one.time_s, 0.0, f"{one.kind}: {one.do}", "reader") for one in moments[:room])


@api.post("/recordings/file", responses=answers(202, ImportOut, 404, 503, *BODY))
def take_recording(query: FileGiven) -> tuple[dict[str, Any], int] | Response:
    """Take in a recording file, sent as it is; how far it is stands at /api/imports."""
    if query.hole_id is not None:
        holes.get(database(), query.hole_id)
    imports: Imports = current_app.config["imports"]
    content = request.get_data()
    if not content:
        return problem(422, "The body is empty: a recording file is accepted.")
    job = imports.begin(database(), content, query.name, query.hole_id)
    if job is None:
        return problem(503, f"{MOST_IMPORTS} files are being read in already. Wait for one to end and try again.")
    return plain(job, ImportOut), 202


@api.get("/imports/<import_id>", responses=answers(200, ImportOut, 404))
def get_import(path: ImportPath) -> dict[str, Any] | Response:
    """How far a file is on its way in."""
    imports: Imports = current_app.config["imports"]
    job = imports.get(path.import_id)
    return (
        problem(404, "There is no such import; it may have ended long ago.") if job is None else plain(job, ImportOut)
    )
