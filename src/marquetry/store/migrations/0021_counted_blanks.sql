-- Batches that were counted by hand become their pieces: the spoilt ones first, with their stage and reason, then
-- the good ones, those that were cut, and those that nobody touched. More came of some than were noted as bought
-- or cut: as many pieces as that takes. A count above a thousand is cut off there, as it is for a batch.
CREATE TEMP TABLE counted AS
WITH RECURSIVE up_to (k) AS (SELECT 1 UNION ALL SELECT k + 1 FROM up_to WHERE k < 1000),
total AS (
    SELECT batch_id, sum(count) FILTER (WHERE what = 'bought') AS bought, sum(count) FILTER (WHERE what = 'cut') AS cut,
           sum(count) FILTER (WHERE what IN ('good', 'spoilt')) AS told, min(at) AS at
      FROM batch_step GROUP BY batch_id
),
piece_of AS (
    SELECT batch_id, step.id AS place, what AS state, stage, why, at FROM batch_step AS step JOIN up_to ON k <= count
     WHERE what IN ('good', 'spoilt')
    UNION ALL
    SELECT batch_id, 1e15, 'cut', '', '', at FROM total JOIN up_to ON k <= ifnull(cut, 0) - ifnull(told, 0)
    UNION ALL
    SELECT batch_id, 2e15, 'bought', '', '', at FROM total
      JOIN up_to ON k <= ifnull(bought, 0) - max(ifnull(cut, 0), ifnull(told, 0))
)
SELECT batch_id, row_number() OVER (PARTITION BY batch_id ORDER BY place, state) AS number, state, stage, why, at
  FROM piece_of;
INSERT INTO blank (batch_id, number, state, spoilt_at, why, at, told_at)
SELECT batch_id, number, CASE WHEN state IN ('good', 'spoilt') THEN state ELSE 'work' END,
       CASE WHEN state = 'spoilt' THEN stage ELSE '' END, CASE WHEN state = 'spoilt' THEN why ELSE '' END, at,
       CASE WHEN state IN ('good', 'spoilt') THEN at ELSE '' END
  FROM counted WHERE number <= 1000;
INSERT INTO blank_stage (blank_id, stage, at)
SELECT blank.id, CASE WHEN counted.stage <> '' THEN counted.stage ELSE 'cut' END, counted.at
  FROM counted JOIN blank ON blank.batch_id = counted.batch_id AND blank.number = counted.number
 WHERE counted.state <> 'bought';
DROP TABLE counted;
DELETE FROM batch_step;
