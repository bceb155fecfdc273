-- Searches of the scenes: from which holes one looked when, what one marked, and what that came to.

CREATE TABLE search (
    id         INTEGER PRIMARY KEY,
    scene      TEXT NOT NULL,
    seed       INTEGER NOT NULL,
    started_at TEXT NOT NULL,
    found      INTEGER NOT NULL,
    wrong      INTEGER NOT NULL,
    holes      INTEGER NOT NULL,
    walked_m   REAL NOT NULL,
    watched_s  REAL NOT NULL,
    done_s     REAL NOT NULL,
    -- Watches and marks: with scene and seed all that is needed to look at every picture again.
    document   TEXT NOT NULL CHECK (json_valid(document)),
    -- The page's own word for it, so that a search sent twice is kept once.
    source_key TEXT NOT NULL UNIQUE
) STRICT;
