-- Sums were whole hundredths of any currency, from here on they are whole minor units of their own (ISO 4217).
UPDATE part SET price_minor = (2 * price_minor + 100) / 200 WHERE price_minor IS NOT NULL AND currency IN ('BIF','CLP','DJF','GNF','ISK','JPY','KMF','KRW','PYG','RWF','UGX','VND','VUV','XAF','XOF','XPF');
UPDATE part SET price_minor = 10 * price_minor WHERE price_minor IS NOT NULL AND currency IN ('BHD','IQD','JOD','KWD','LYD','OMR','TND');
UPDATE part_past SET price_minor = (2 * price_minor + 100) / 200 WHERE price_minor IS NOT NULL AND currency IN ('BIF','CLP','DJF','GNF','ISK','JPY','KMF','KRW','PYG','RWF','UGX','VND','VUV','XAF','XOF','XPF');
UPDATE part_past SET price_minor = 10 * price_minor WHERE price_minor IS NOT NULL AND currency IN ('BHD','IQD','JOD','KWD','LYD','OMR','TND');
UPDATE piece SET paid_minor = (2 * paid_minor + 100) / 200 WHERE paid_minor IS NOT NULL AND currency IN ('BIF','CLP','DJF','GNF','ISK','JPY','KMF','KRW','PYG','RWF','UGX','VND','VUV','XAF','XOF','XPF');
UPDATE piece SET paid_minor = 10 * paid_minor WHERE paid_minor IS NOT NULL AND currency IN ('BHD','IQD','JOD','KWD','LYD','OMR','TND');
UPDATE donor SET paid_minor = (2 * paid_minor + 100) / 200 WHERE paid_minor IS NOT NULL AND currency IN ('BIF','CLP','DJF','GNF','ISK','JPY','KMF','KRW','PYG','RWF','UGX','VND','VUV','XAF','XOF','XPF');
UPDATE donor SET paid_minor = 10 * paid_minor WHERE paid_minor IS NOT NULL AND currency IN ('BHD','IQD','JOD','KWD','LYD','OMR','TND');
UPDATE made_version SET cost_minor = (2 * cost_minor + 100) / 200 WHERE cost_minor IS NOT NULL AND currency IN ('BIF','CLP','DJF','GNF','ISK','JPY','KMF','KRW','PYG','RWF','UGX','VND','VUV','XAF','XOF','XPF');
UPDATE made_version SET cost_minor = 10 * cost_minor WHERE cost_minor IS NOT NULL AND currency IN ('BHD','IQD','JOD','KWD','LYD','OMR','TND');
