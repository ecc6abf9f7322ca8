-- A watch and all its revisions. Saving never changes a revision: it adds one and moves `version` on.
CREATE TABLE watch (
    id INTEGER PRIMARY KEY,
    version INTEGER NOT NULL CHECK (version > 0),
    removed_at TEXT,
    FOREIGN KEY (id, version) REFERENCES revision (watch_id, version) DEFERRABLE INITIALLY DEFERRED
) STRICT;

-- undo_to and redo_to name the revision whose sheet an undo or a redo brings back as a new revision.
CREATE TABLE revision (
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    version INTEGER NOT NULL CHECK (version > 0),
    sheet TEXT NOT NULL CHECK (json_valid(sheet)),
    change TEXT NOT NULL,
    undo_to INTEGER CHECK (undo_to < version),
    redo_to INTEGER CHECK (redo_to < version),
    saved_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    PRIMARY KEY (watch_id, version)
) STRICT, WITHOUT ROWID;
