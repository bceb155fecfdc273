-- What was known at each hole when its card was made, which checks are ticked there, and a unit's calibration readings.

CREATE TABLE hole_card (
    hole_id INTEGER PRIMARY KEY REFERENCES hole (id) ON DELETE CASCADE,
    wanted  TEXT NOT NULL CHECK (json_valid(wanted)),
    used_at TEXT NOT NULL
) STRICT;

CREATE TABLE hole_check (
    hole_id INTEGER NOT NULL REFERENCES hole (id) ON DELETE CASCADE,
    name    TEXT NOT NULL,
    done_at TEXT NOT NULL,
    PRIMARY KEY (hole_id, name)
) STRICT;

CREATE TABLE calibration (
    unit_id   INTEGER PRIMARY KEY REFERENCES unit (id) ON DELETE CASCADE,
    readings  TEXT NOT NULL CHECK (json_valid(readings)),
    -- The profile as it was before, to go back to.
    before    TEXT NOT NULL CHECK (json_valid(before)),
    applied_at TEXT NOT NULL
) STRICT;
