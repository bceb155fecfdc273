-- Runs of the strike drill, how high fish came, and what happened on the ice.

CREATE TABLE run (
    id          INTEGER PRIMARY KEY,
    hole_id     INTEGER REFERENCES hole (id) ON DELETE SET NULL,
    level       TEXT NOT NULL,
    mood        TEXT NOT NULL,
    seed        INTEGER NOT NULL,
    started_at  TEXT NOT NULL,
    seconds     REAL NOT NULL,
    outcome     TEXT NOT NULL,
    landed_m    REAL NOT NULL,
    species     TEXT NOT NULL,
    -- Each skill's times well done, of how many.
    skills      TEXT NOT NULL CHECK (json_valid(skills)),
    -- The run file: what it started from and every command with its frame.
    document    TEXT NOT NULL CHECK (json_valid(document)),
    -- The picture as it was shown, as a recording file; empty when the run was too short for one.
    picture     BLOB NOT NULL,
    branch_of   INTEGER REFERENCES run (id) ON DELETE SET NULL,
    branch_at_s REAL,
    -- The live bench it was played on, so that a run is kept once; or what the demo seeded.
    source_key  TEXT NOT NULL UNIQUE
) STRICT;

CREATE TABLE came (
    id      INTEGER PRIMARY KEY,
    hole_id INTEGER NOT NULL REFERENCES hole (id) ON DELETE CASCADE,
    at      TEXT NOT NULL,
    depth_m REAL NOT NULL CHECK (depth_m > 0),
    turned  INTEGER NOT NULL CHECK (turned IN (0, 1))
) STRICT;

CREATE INDEX came_at ON came (hole_id, at);

CREATE TABLE touch (
    id      INTEGER PRIMARY KEY,
    hole_id INTEGER NOT NULL REFERENCES hole (id) ON DELETE CASCADE,
    at      TEXT NOT NULL,
    kind    TEXT NOT NULL,
    trying  TEXT NOT NULL,
    species TEXT NOT NULL,
    depth_m REAL CHECK (depth_m IS NULL OR depth_m > 0)
) STRICT;

CREATE INDEX touch_at ON touch (hole_id, at);
