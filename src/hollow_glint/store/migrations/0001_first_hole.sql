-- Holes, units, lures and strikes. Lengths in metres, temperatures in degrees C, times in UTC as ISO 8601 text.
-- demo_key names a row that the demo seeds, so that seeding twice changes nothing.

CREATE TABLE unit (
    id       INTEGER PRIMARY KEY,
    name     TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    profile  TEXT NOT NULL CHECK (json_valid(profile)),
    demo_key TEXT UNIQUE
) STRICT;

CREATE TABLE lure (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    form       TEXT NOT NULL,
    material   TEXT NOT NULL,
    diameter_m REAL NOT NULL CHECK (diameter_m > 0),
    demo_key   TEXT UNIQUE
) STRICT;

CREATE TABLE hole (
    id              INTEGER PRIMARY KEY,
    name            TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    water           TEXT NOT NULL CHECK (length(water) <= 80),
    note            TEXT NOT NULL CHECK (length(note) <= 500),
    bottom_depth_m  REAL NOT NULL CHECK (bottom_depth_m > 0),
    bottom_kind     TEXT NOT NULL,
    ice_thickness_m REAL NOT NULL CHECK (ice_thickness_m >= 0 AND ice_thickness_m < bottom_depth_m),
    face_depth_m    REAL NOT NULL CHECK (face_depth_m >= 0 AND face_depth_m < bottom_depth_m),
    hole_diameter_m REAL NOT NULL CHECK (hole_diameter_m > 0),
    temperature_c   REAL NOT NULL,
    clarity         TEXT NOT NULL,
    demo_key        TEXT UNIQUE
) STRICT;

CREATE TABLE strike (
    id            INTEGER PRIMARY KEY,
    hole_id       INTEGER NOT NULL REFERENCES hole (id) ON DELETE RESTRICT,
    unit_id       INTEGER NOT NULL REFERENCES unit (id) ON DELETE RESTRICT,
    lure_id       INTEGER NOT NULL REFERENCES lure (id) ON DELETE RESTRICT,
    struck_at     TEXT NOT NULL,
    depth_m       REAL NOT NULL CHECK (depth_m > 0),
    fish_length_m REAL CHECK (fish_length_m IS NULL OR fish_length_m > 0),
    settings      TEXT NOT NULL CHECK (json_valid(settings)),
    note          TEXT NOT NULL CHECK (length(note) <= 500),
    -- Where a strike came from; writing the same one twice keeps one.
    source_key    TEXT NOT NULL UNIQUE
) STRICT;

-- What has been seeded once, so that rows people removed do not come back.
CREATE TABLE seeding (
    name    TEXT PRIMARY KEY,
    done_at TEXT NOT NULL
) STRICT;

CREATE INDEX strike_by_hole ON strike (hole_id, struck_at);
