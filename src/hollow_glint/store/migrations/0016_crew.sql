-- The crew on the ice: who is in it, who was invited, what was said. Secrets stand here only by their SHA-256.

CREATE TABLE crew (
    id       INTEGER PRIMARY KEY CHECK (id = 1),
    lake_id  INTEGER REFERENCES lake (id) ON DELETE SET NULL,
    come_in  TEXT,
    works    TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(works)),
    lines    TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(lines))
) STRICT;

INSERT INTO crew (id) VALUES (1);

CREATE TABLE crew_member (
    id        INTEGER PRIMARY KEY,
    name      TEXT NOT NULL,
    token     TEXT NOT NULL UNIQUE,
    role      TEXT NOT NULL CHECK (role IN ('member', 'second host')),
    hole      TEXT CHECK (hole IS NULL OR json_valid(hole)),
    joined_at TEXT NOT NULL,
    seen_at   TEXT NOT NULL,
    ended_at  TEXT
) STRICT;

CREATE TABLE crew_invitation (
    id      INTEGER PRIMARY KEY,
    code    TEXT NOT NULL UNIQUE,
    words   TEXT NOT NULL UNIQUE,
    until_s REAL NOT NULL,
    used    INTEGER NOT NULL DEFAULT 0 CHECK (used IN (0, 1))
) STRICT;

CREATE TABLE crew_event (
    id   INTEGER PRIMARY KEY AUTOINCREMENT,
    at   TEXT NOT NULL,
    who  TEXT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('call', 'note', 'come in', 'all well', 'joined', 'moved', 'gone', 'works')),
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
