-- Lures of every form, scenes that people keep, and which exercises are done.

ALTER TABLE lure ADD COLUMN length_m REAL NOT NULL DEFAULT 0 CHECK (length_m >= 0);
ALTER TABLE lure ADD COLUMN spacing_m REAL NOT NULL DEFAULT 0 CHECK (spacing_m >= 0);

-- The number of colours is now a matter of the ladders.
UPDATE unit SET profile = json_remove(profile, '$.colours');

CREATE TABLE scene (
    id       INTEGER PRIMARY KEY,
    name     TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    document TEXT NOT NULL CHECK (json_valid(document)),
    demo_key TEXT UNIQUE
) STRICT;

CREATE TABLE exercise_done (
    exercise TEXT PRIMARY KEY,
    done_at  TEXT NOT NULL
) STRICT;
