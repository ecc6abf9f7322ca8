-- What a watch was proved by: rows are added, never changed; `undoes` names the key of one that is taken back.
-- `result` is the reading's own document, its units at the end of its keys; `at_ms` counts from 1970 in UTC.
CREATE TABLE proof (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    key TEXT NOT NULL CHECK (length(key) BETWEEN 8 AND 64),
    kind TEXT NOT NULL CHECK (kind IN ('functions', 'sound', 'wrist', 'dry', 'wet', 'meeting', 'date', 'angle', 'lume',
        'loupe', 'opened', 'undo')),
    item TEXT NOT NULL CHECK (length(item) <= 60),
    at_ms INTEGER NOT NULL CHECK (at_ms >= 0),
    verdict TEXT NOT NULL DEFAULT '' CHECK (verdict IN ('', 'passed', 'failed', 'unsure')),
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 400),
    means TEXT NOT NULL DEFAULT '' CHECK (length(means) <= 120),
    by TEXT NOT NULL DEFAULT '' CHECK (length(by) <= 80),
    result TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(result)),
    series TEXT NOT NULL DEFAULT '',
    undoes TEXT NOT NULL DEFAULT '' CHECK (length(undoes) <= 64),
    photo_id INTEGER REFERENCES photo (id) ON DELETE SET NULL DEFERRABLE INITIALLY DEFERRED,
    UNIQUE (watch_id, key)
) STRICT;
CREATE INDEX proof_of_watch ON proof (watch_id, at_ms, id);

-- A photograph may be a proof's: `owner_id` is then its watch.
CREATE TABLE photo_now (
    id INTEGER PRIMARY KEY,
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'piece', 'donor', 'made', 'trial', 'bench', 'proof')),
    owner_id INTEGER NOT NULL,
    digest TEXT NOT NULL CHECK (digest GLOB '[0-9a-f]*' AND length(digest) = 64),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    caption TEXT NOT NULL DEFAULT '' CHECK (length(caption) <= 200),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
INSERT INTO photo_now SELECT id, owner, owner_id, digest, width, height, caption, at FROM photo;
DROP TABLE photo;
ALTER TABLE photo_now RENAME TO photo;
CREATE INDEX photo_of ON photo (owner, owner_id);
