-- What a builder decided about a text that is being read: where parts begin, names, answers, whose it is.
ALTER TABLE pasted ADD COLUMN decided TEXT NOT NULL DEFAULT '{}';
-- Mail addresses by which a supplier's texts are known.
CREATE TABLE supplier_sender (
    address TEXT NOT NULL PRIMARY KEY,
    supplier_id INTEGER NOT NULL REFERENCES supplier (id)
) STRICT, WITHOUT ROWID;
-- What a supplier's own words mean, learnt on the page of a text: a quantity of a kind, a kind, or no part ('-').
CREATE TABLE supplier_label (
    id INTEGER PRIMARY KEY,
    supplier_id INTEGER NOT NULL REFERENCES supplier (id),
    kind TEXT NOT NULL,
    label TEXT NOT NULL,
    means TEXT NOT NULL,
    learnt_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    UNIQUE (supplier_id, kind, label)
) STRICT;
-- Parts of the catalogue that a watch needs beside the one in its slot, such as a second strap.
CREATE TABLE beside_part (
    watch_id INTEGER NOT NULL REFERENCES watch (id),
    part_id INTEGER NOT NULL REFERENCES part (id),
    PRIMARY KEY (watch_id, part_id)
) STRICT, WITHOUT ROWID;
