-- script: saltmere.reading --keep 12~months
-- holds: CREATE TABLE saltmere.reading_2024_02
-- as tide_writer: INSERT INTO saltmere.reading VALUES (1900, '2026-12-01', 3)
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_owner; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE SCHEMA saltmere; GRANT USAGE, CREATE ON SCHEMA saltmere TO tide_writer, tide_owner;
CREATE TABLE saltmere.audit (what text); GRANT ALL ON saltmere.audit TO PUBLIC;
CREATE TABLE saltmere.reading (id int NOT NULL, at date NOT NULL, level numeric CHECK (level < 100), PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE saltmere.reading_2024_01 PARTITION OF saltmere.reading FOR VALUES FROM ('2024-01-01') TO ('2024-02-01');
CREATE TABLE saltmere.reading_2024_02 PARTITION OF saltmere.reading FOR VALUES FROM ('2024-02-01') TO ('2024-03-01'); CREATE TABLE saltmere.reading_2026_12 PARTITION OF saltmere.reading FOR VALUES FROM ('2026-12-01') TO ('2027-01-01');
CREATE FUNCTION saltmere.note() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO saltmere.audit VALUES (TG_OP || ' ' || TG_TABLE_NAME || ' ' || TG_NAME); RETURN coalesce(NEW, OLD); END $$;
CREATE TRIGGER a_row /*13 BEFORE*//*-13 AFTER*/ INSERT OR DELETE OR UPDATE ON saltmere.reading FOR EACH ROW EXECUTE FUNCTION saltmere.note(); CREATE TRIGGER st AFTER INSERT ON saltmere.reading FOR EACH STATEMENT EXECUTE FUNCTION saltmere.note();
CREATE TRIGGER own AFTER INSERT ON saltmere.reading_2024_01 FOR EACH ROW EXECUTE FUNCTION saltmere.note();
COMMENT ON TRIGGER a_row ON saltmere.reading IS 'tr'; COMMENT ON TABLE saltmere.reading_2024_01 IS 'old'; COMMENT ON COLUMN saltmere.reading_2024_01.level IS 'l'; CREATE INDEX own_i ON saltmere.reading_2024_01 (level); CREATE INDEX whole_i ON saltmere.reading (level) WHERE level > 3; 
ALTER TABLE saltmere.reading_2024_02 OWNER TO tide_owner; GRANT SELECT ON saltmere.reading_2024_02 TO tide_writer; ALTER TABLE saltmere.reading_2024_02 ALTER level SET DEFAULT 5; ALTER TABLE saltmere.reading_2024_02 ADD CONSTRAINT ownc CHECK (level > -100); COMMENT ON CONSTRAINT reading_level_check ON saltmere.reading_2024_02 IS 'x';
CREATE TABLE saltmere.station (id int PRIMARY KEY); INSERT INTO saltmere.station SELECT generate_series(0, 2000); ALTER TABLE saltmere.reading ADD FOREIGN KEY (id) REFERENCES saltmere.station ON DELETE CASCADE;
INSERT INTO saltmere.reading SELECT g, '2024-01-01'::date + g % 50, 1 FROM generate_series(1, 500) g;
GRANT ALL ON saltmere.reading TO tide_writer;
