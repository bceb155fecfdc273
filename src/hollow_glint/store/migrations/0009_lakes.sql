-- A lake from above and the trip: soundings, what lies on the bed, ice as it was measured, places as they were fished,
-- the coming day, batteries and gear. Places in metres east and north of the lake's anchor.

CREATE TABLE lake (
    id        INTEGER PRIMARY KEY,
    version   INTEGER NOT NULL DEFAULT 1,
    name      TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    latitude  REAL CHECK (latitude BETWEEN -85 AND 85),
    longitude REAL CHECK (longitude BETWEEN -180 AND 180),
    landing_m TEXT NOT NULL CHECK (json_valid(landing_m)),
    shore_m   TEXT NOT NULL CHECK (json_valid(shore_m)),
    demo_key  TEXT UNIQUE
) STRICT;

-- A file of soundings that was taken in: it goes as a whole.
CREATE TABLE survey (
    id       INTEGER PRIMARY KEY,
    lake_id  INTEGER NOT NULL REFERENCES lake (id) ON DELETE CASCADE,
    name     TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    taken_at TEXT NOT NULL,
    said     TEXT NOT NULL,
    demo_key TEXT UNIQUE
) STRICT;

CREATE TABLE sounding (
    id        INTEGER PRIMARY KEY,
    lake_id   INTEGER NOT NULL REFERENCES lake (id) ON DELETE CASCADE,
    survey_id INTEGER REFERENCES survey (id) ON DELETE CASCADE,
    east_m    REAL NOT NULL,
    north_m   REAL NOT NULL,
    depth_m   REAL NOT NULL CHECK (depth_m >= 0),
    how       TEXT NOT NULL,
    at        TEXT NOT NULL,
    bottom    TEXT NOT NULL,
    demo_key  TEXT UNIQUE
) STRICT;

CREATE INDEX sounding_by_lake ON sounding (lake_id, id);
CREATE INDEX sounding_by_survey ON sounding (survey_id);

CREATE TABLE structure (
    id       INTEGER PRIMARY KEY,
    lake_id  INTEGER NOT NULL REFERENCES lake (id) ON DELETE CASCADE,
    east_m   REAL NOT NULL,
    north_m  REAL NOT NULL,
    kind     TEXT NOT NULL,
    note     TEXT NOT NULL,
    demo_key TEXT UNIQUE
) STRICT;

CREATE TABLE ice_reading (
    id          INTEGER PRIMARY KEY,
    lake_id     INTEGER NOT NULL REFERENCES lake (id) ON DELETE CASCADE,
    east_m      REAL NOT NULL,
    north_m     REAL NOT NULL,
    thickness_m REAL NOT NULL CHECK (thickness_m >= 0),
    kind        TEXT NOT NULL,
    at          TEXT NOT NULL,
    demo_key    TEXT UNIQUE
) STRICT;

CREATE TABLE fished_place (
    id       INTEGER PRIMARY KEY,
    lake_id  INTEGER NOT NULL REFERENCES lake (id) ON DELETE CASCADE,
    east_m   REAL NOT NULL,
    north_m  REAL NOT NULL,
    at       TEXT NOT NULL,
    how      TEXT NOT NULL,
    note     TEXT NOT NULL,
    demo_key TEXT UNIQUE
) STRICT;

-- Where a hole lies; its own depth is a sounding there.
CREATE TABLE hole_place (
    id       INTEGER PRIMARY KEY,
    hole_id  INTEGER NOT NULL UNIQUE REFERENCES hole (id) ON DELETE CASCADE,
    lake_id  INTEGER NOT NULL REFERENCES lake (id) ON DELETE CASCADE,
    east_m   REAL NOT NULL,
    north_m  REAL NOT NULL,
    demo_key TEXT UNIQUE
) STRICT;

-- The coming day at a lake, as one document.
CREATE TABLE trip_day (
    id       INTEGER PRIMARY KEY,
    version  INTEGER NOT NULL DEFAULT 1,
    lake_id  INTEGER NOT NULL UNIQUE REFERENCES lake (id) ON DELETE CASCADE,
    document TEXT NOT NULL CHECK (json_valid(document)),
    demo_key TEXT UNIQUE
) STRICT;

-- Lines of the table of starting depths that somebody changed or added.
CREATE TABLE band_line (
    id       INTEGER PRIMARY KEY,
    species  TEXT NOT NULL,
    season   TEXT NOT NULL,
    light    TEXT NOT NULL,
    from_m   REAL NOT NULL,
    to_m     REAL NOT NULL,
    why      TEXT NOT NULL,
    demo_key TEXT UNIQUE,
    UNIQUE (species, season, light)
) STRICT;

CREATE TABLE battery (
    id          INTEGER PRIMARY KEY,
    version     INTEGER NOT NULL DEFAULT 1,
    name        TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
    chemistry   TEXT NOT NULL,
    capacity_ah REAL NOT NULL CHECK (capacity_ah > 0),
    rated_hours REAL NOT NULL CHECK (rated_hours > 0),
    nominal_v   REAL NOT NULL CHECK (nominal_v > 0),
    charges     INTEGER NOT NULL CHECK (charges >= 0),
    spare       INTEGER NOT NULL,
    demo_key    TEXT UNIQUE
) STRICT;

-- What was done with a battery and when: charged, or its volts read.
CREATE TABLE battery_note (
    id         INTEGER PRIMARY KEY,
    battery_id INTEGER NOT NULL REFERENCES battery (id) ON DELETE CASCADE,
    at         TEXT NOT NULL,
    what       TEXT NOT NULL CHECK (what IN ('charged', 'volts')),
    volts      REAL CHECK (volts IS NULL OR volts > 0),
    demo_key   TEXT UNIQUE
) STRICT;

CREATE TABLE gear_item (
    id       INTEGER PRIMARY KEY,
    version  INTEGER NOT NULL DEFAULT 1,
    name     TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
    kind     TEXT NOT NULL,
    note     TEXT NOT NULL,
    demo_key TEXT UNIQUE
) STRICT;

CREATE TABLE finding (
    id       INTEGER PRIMARY KEY,
    item_id  INTEGER NOT NULL REFERENCES gear_item (id) ON DELETE CASCADE,
    at       TEXT NOT NULL,
    made     TEXT NOT NULL,
    passed   INTEGER NOT NULL,
    note     TEXT NOT NULL,
    demo_key TEXT UNIQUE
) STRICT;
