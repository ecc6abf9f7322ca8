-- What is wanted of a watch and by whom: each wish's steps, one row a step; rows are added, never changed.
CREATE TABLE wish (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    topic TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('open', 'proposed', 'agreed', 'changed')),
    value TEXT NOT NULL,
    words TEXT NOT NULL DEFAULT '',
    teller TEXT NOT NULL CHECK (teller IN ('workshop', 'client')),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX wish_of_watch ON wish (watch_id, id);
-- The client's yes to one version of a watch.
CREATE TABLE sign_off (
    watch_id INTEGER NOT NULL,
    number INTEGER NOT NULL CHECK (number > 0),
    version INTEGER NOT NULL,
    name TEXT NOT NULL,
    words TEXT NOT NULL DEFAULT '',
    last_step INTEGER NOT NULL DEFAULT 0,
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    PRIMARY KEY (watch_id, number),
    FOREIGN KEY (watch_id, version) REFERENCES revision (watch_id, version)
        ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
