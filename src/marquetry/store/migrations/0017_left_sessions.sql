-- Sessions that were left before they ended by themselves, by a digest of what their cookie says; a new
-- passphrase ends every session, and empties this.
CREATE TABLE left_session (
    digest TEXT PRIMARY KEY CHECK (length(digest) = 64),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT, WITHOUT ROWID;
