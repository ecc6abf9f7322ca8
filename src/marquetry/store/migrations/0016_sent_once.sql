-- Forms that were counted, by the key that each carries: one that is sent twice counts once.
CREATE TABLE sent_form (
    key TEXT PRIMARY KEY CHECK (length(key) BETWEEN 8 AND 64),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT, WITHOUT ROWID;

-- A part's words are looked up anew only where one of them changed: of thousands whose sizes change none does.
DROP TRIGGER part_words_changed;
CREATE TRIGGER part_words_changed AFTER UPDATE OF name, notes, sheet ON part
 WHEN new.name <> old.name OR new.notes <> old.notes OR new.colour IS NOT old.colour
   OR new.material IS NOT old.material OR new.finish IS NOT old.finish OR new.glow IS NOT old.glow
   OR json_extract(new.sheet, '$.daylight') IS NOT json_extract(old.sheet, '$.daylight')
BEGIN
    UPDATE part_words SET words = new.name || ' ' || replace(new.kind, '_', ' ') || ' ' || new.notes || ' '
        || coalesce(new.colour, '') || ' ' || coalesce(new.material, '') || ' ' || coalesce(new.finish, '')
        || ' ' || coalesce(new.glow, '') || ' ' || coalesce(json_extract(new.sheet, '$.daylight'), '')
     WHERE rowid = new.id;
END;
