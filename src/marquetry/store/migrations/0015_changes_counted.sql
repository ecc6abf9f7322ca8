-- How often each table was written to: raised by triggers that every table has (migrating.py makes them from
-- the schema), so that an answer kept in mind can tell whether what it read still stands.
CREATE TABLE table_change (
    name TEXT PRIMARY KEY,
    changes INTEGER NOT NULL DEFAULT 0
) STRICT, WITHOUT ROWID;

-- Which migrations made this file, by what was in them; nothing is known of those before this one.
CREATE TABLE migration (
    number INTEGER PRIMARY KEY,
    digest TEXT NOT NULL
) STRICT;
