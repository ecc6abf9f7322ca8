-- Watches kept as families: what others of their kind begin from, every dimension assumed.
CREATE TABLE family (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    sheet TEXT NOT NULL,
    made_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    removed_at TEXT
) STRICT;
