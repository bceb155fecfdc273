-- Photos of screens: one kept beside its recording when that is asked for, and how a unit's ladder looks on its screen.

CREATE TABLE recording_photo (
    id           INTEGER PRIMARY KEY,
    recording_id INTEGER NOT NULL UNIQUE REFERENCES recording (id) ON DELETE CASCADE,
    -- The pixels alone, as a JPEG of our own making: nothing that the phone wrote beside them.
    content      BLOB NOT NULL
) STRICT;

CREATE TABLE screen_colours (
    id      INTEGER PRIMARY KEY,
    unit_id INTEGER NOT NULL REFERENCES unit (id) ON DELETE CASCADE,
    ladder  INTEGER NOT NULL CHECK (ladder >= 0),
    dark    TEXT NOT NULL CHECK (length(dark) = 7),
    colours TEXT NOT NULL CHECK (json_valid(colours)),
    UNIQUE (unit_id, ladder)
) STRICT;
