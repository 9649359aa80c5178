-- script: saltmere.reading --empty-rest
-- as tide_writer: INSERT INTO saltmere.reading VALUES (9000, '2026-05-01', 3); DELETE FROM saltmere.reading WHERE id = 9000
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE SCHEMA saltmere; GRANT USAGE ON SCHEMA saltmere TO tide_writer;
CREATE TABLE saltmere.audit (what text);
CREATE TABLE saltmere.reading (id int, at date NOT NULL, level numeric) PARTITION BY RANGE (at);
CREATE TABLE saltmere.reading_2026_01 PARTITION OF saltmere.reading FOR VALUES FROM ('2026-01-01') TO ('2026-02-01'); CREATE TABLE saltmere.reading_2026_02 PARTITION OF saltmere.reading FOR VALUES FROM ('2026-02-01') TO ('2026-03-01');
CREATE TABLE saltmere.reading_rest PARTITION OF saltmere.reading DEFAULT;
CREATE FUNCTION saltmere.note() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER AS $$ BEGIN INSERT INTO saltmere.audit VALUES (TG_OP || ' ' || TG_TABLE_NAME || ' ' || TG_NAME); RETURN coalesce(NEW, OLD); END $$;
CREATE TRIGGER rest_row AFTER DELETE ON saltmere.reading_rest FOR EACH ROW EXECUTE FUNCTION saltmere.note(); ALTER TABLE saltmere.reading_rest ENABLE ALWAYS TRIGGER rest_row;
CREATE TRIGGER rest_in AFTER INSERT ON saltmere.reading_rest FOR EACH STATEMENT EXECUTE FUNCTION saltmere.note(); CREATE TRIGGER rest_off AFTER INSERT ON saltmere.reading_rest FOR EACH ROW EXECUTE FUNCTION saltmere.note(); ALTER TABLE saltmere.reading_rest DISABLE TRIGGER rest_off;
INSERT INTO saltmere.reading SELECT g, '2026-01-01'::date + g / 10, 1 FROM generate_series(1, 1500) g; TRUNCATE saltmere.audit;
GRANT ALL ON saltmere.reading TO tide_writer;
