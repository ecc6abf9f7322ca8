-- A piece names its version as a watch does, so that of two forms made from one state only the first is taken.
ALTER TABLE piece ADD COLUMN version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0);

-- What a part was before each edit; `undo_to` names the version that an undo brings back as a new one.
ALTER TABLE part ADD COLUMN undo_to INTEGER;
CREATE TABLE part_past (
    part_id INTEGER NOT NULL REFERENCES part (id) ON DELETE CASCADE,
    version INTEGER NOT NULL CHECK (version > 0),
    name TEXT NOT NULL,
    sheet TEXT NOT NULL CHECK (json_valid(sheet)),
    notes TEXT NOT NULL,
    supplier_id INTEGER REFERENCES supplier (id),
    price_minor INTEGER,
    currency TEXT NOT NULL,
    order_link TEXT NOT NULL,
    undo_to INTEGER,
    PRIMARY KEY (part_id, version)
) STRICT, WITHOUT ROWID;

-- Parts that a file brings in wait here, a batch at a time, until all of them go onto the shelf in one short step.
ALTER TABLE part ADD COLUMN waits_for INTEGER REFERENCES import (id);
CREATE INDEX part_waiting ON part (waits_for) WHERE waits_for IS NOT NULL;
