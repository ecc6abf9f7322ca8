-- The workshop's own rules: a limit's [low, high] or a plain number as JSON; `origin` says where it comes from.
CREATE TABLE house_rule (
    key TEXT PRIMARY KEY,
    value TEXT NOT NULL CHECK (json_valid(value)),
    origin TEXT NOT NULL,
    set_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT, WITHOUT ROWID;

-- What the workshop measures with. `uncertainty` is expanded (k = 2), in mm; `ways` a JSON list of ways to measure.
CREATE TABLE instrument (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    resolution REAL NOT NULL CHECK (resolution > 0),
    uncertainty REAL NOT NULL CHECK (uncertainty > 0),
    ways TEXT NOT NULL CHECK (json_valid(ways))
) STRICT;

-- Another way this watch could be built, to be compared with it.
CREATE TABLE variant (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    sheet TEXT NOT NULL CHECK (json_valid(sheet)),
    made_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX variant_of_watch ON variant (watch_id);
