-- What was removed last, so that it can be brought back: each row with all that went or was let go with it.

CREATE TABLE removal (
    id       INTEGER PRIMARY KEY,
    document TEXT NOT NULL
) STRICT;
