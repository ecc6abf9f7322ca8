-- What is assumed lies within the spread of its dimension. Older sheets wrote a tolerance by a rule that no
-- longer stands, and that is taken off. One that was typed differs from the rule, and stays.
UPDATE revision SET sheet = without_usual_tol(sheet) WHERE instr(sheet, '"assumed"');
UPDATE variant SET sheet = without_usual_tol(sheet) WHERE instr(sheet, '"assumed"');
UPDATE part SET sheet = without_usual_tol(sheet) WHERE instr(sheet, '"assumed"');
UPDATE part_past SET sheet = without_usual_tol(sheet) WHERE instr(sheet, '"assumed"');
UPDATE piece SET sheet = without_usual_tol(sheet) WHERE sheet IS NOT NULL AND instr(sheet, '"assumed"');
UPDATE family SET sheet = without_usual_tol(sheet) WHERE instr(sheet, '"assumed"');
