-- Recordings with their notes; drill cards, answers and rounds.

CREATE TABLE recording (
    id         INTEGER PRIMARY KEY,
    hole_id    INTEGER REFERENCES hole (id) ON DELETE SET NULL,
    name       TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    started_at TEXT NOT NULL,
    seconds    REAL NOT NULL,
    pings      INTEGER NOT NULL,
    -- The recording as the netCDF file that it can be exchanged as; its notes are in recording_note.
    document   BLOB NOT NULL,
    -- What was repaired or missing when it came from a file.
    remarks    TEXT NOT NULL CHECK (json_valid(remarks)),
    demo_key   TEXT UNIQUE
) STRICT;

CREATE TABLE recording_note (
    id           INTEGER PRIMARY KEY,
    recording_id INTEGER NOT NULL REFERENCES recording (id) ON DELETE CASCADE,
    time_s       REAL NOT NULL,
    depth_m      REAL NOT NULL,
    text         TEXT NOT NULL CHECK (length(text) BETWEEN 1 AND 280),
    written_by   TEXT NOT NULL CHECK (written_by IN ('angler', 'reader'))
) STRICT;

CREATE INDEX recording_note_of ON recording_note (recording_id, time_s);

CREATE TABLE drill_card (
    kind   TEXT PRIMARY KEY,
    level  INTEGER NOT NULL CHECK (level BETWEEN 1 AND 3),
    streak INTEGER NOT NULL,
    due_at TEXT NOT NULL,
    -- What the scheduler remembers of it.
    card   TEXT NOT NULL CHECK (json_valid(card))
) STRICT;

CREATE TABLE drill_answer (
    id          INTEGER PRIMARY KEY,
    kind        TEXT NOT NULL,
    level       INTEGER NOT NULL,
    seed        INTEGER NOT NULL,
    is_right    INTEGER NOT NULL CHECK (is_right IN (0, 1)),
    seconds     REAL NOT NULL,
    answered_at TEXT NOT NULL
) STRICT;

CREATE TABLE drill_round (
    id       INTEGER PRIMARY KEY,
    name     TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    -- The round file.
    document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;
