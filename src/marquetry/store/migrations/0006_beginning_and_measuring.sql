-- Watches kept as families: what others of their kind begin from, every dimension assumed.
CREATE TABLE family (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    sheet TEXT NOT NULL,
    made_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    removed_at TEXT
) STRICT;
-- A seller's text that was pasted and of which nothing was taken yet: for a watch, a part, or the shelf (0).
CREATE TABLE pasted (
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'shelf')),
    owner_id INTEGER NOT NULL,
    text TEXT NOT NULL,
    PRIMARY KEY (owner, owner_id)
) STRICT, WITHOUT ROWID;
-- A measuring round on its way: its plan, how far it is, what was skipped, and the verdicts it began with.
CREATE TABLE measuring_round (
    what TEXT NOT NULL CHECK (what IN ('watch', 'drawer', 'donor')),
    which TEXT NOT NULL,
    plan TEXT NOT NULL,
    done TEXT NOT NULL DEFAULT '[]',
    skipped TEXT NOT NULL DEFAULT '[]',
    taken TEXT NOT NULL DEFAULT '[]',
    verdicts TEXT NOT NULL DEFAULT '{}',
    begun_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    PRIMARY KEY (what, which)
) STRICT, WITHOUT ROWID;
