-- What leans on tables, columns, keys and generators: checks that ask other tables, computed columns and
-- indexes by expressions, views over views, procedures, packages and triggers, types of columns, rights of
-- procedures and triggers, names of the engine's words and of 31 bytes, an owner who is no administrator.
-- as : EXECUTE PROCEDURE add_visit; INSERT INTO log VALUES (5, 'whole row'); INSERT INTO "Order" ("a b", "Select") VALUES (900, 'x')
-- goes: COMMENT ON INDEX *VISIT_(ST|DAY1) IS
-- as : UPDATE tall SET code = 'T1' WHERE id = 3; SELECT * FROM tall2; SELECT pack.many(3) FROM rdb$database
-- as : INSERT INTO pass (id, station_id) VALUES (1, 1); INSERT INTO pass2 (id) VALUES (1)
-- as GUARDED: INSERT INTO visit (station_id, note) VALUES (1, 'mine'); SELECT id, code FROM station; UPDATE station SET code = 'Z1' WHERE id = 4
-- as GUARDED: SELECT n FROM tally; SELECT * FROM tall2; INSERT INTO owned (a, b) VALUES (901, 1); SELECT * FROM keepers_view
-- as GUARDED: EXECUTE PROCEDURE add_visit; INSERT INTO a_name_of_thirty_one_bytes_here (station_id) VALUES (2)
CREATE DOMAIN code_words AS VARCHAR(8) DEFAULT 'none' CHECK (VALUE <> '') COLLATE UNICODE_CI;
CREATE DOMAIN plain_id AS INTEGER;
CREATE SEQUENCE visit_no START WITH 1000;
CREATE SEQUENCE log_no;
CREATE EXCEPTION too_high 'it''s; too high';
CREATE TABLE keeper (id INTEGER NOT NULL CONSTRAINT keeper_pk PRIMARY KEY, name VARCHAR(40) NOT NULL, badge VARCHAR(10) UNIQUE);
CREATE TABLE station (id plain_id NOT NULL PRIMARY KEY, code code_words NOT NULL, keeper_id INTEGER, near_id INTEGER, height NUMERIC(9,2) DEFAULT 0 CHECK (height >= 0), twice COMPUTED BY (height * 2),
  of_keeper COMPUTED BY ((SELECT k.name FROM keeper k WHERE k.id = keeper_id)), CONSTRAINT high CHECK (height IS NULL OR EXISTS (SELECT 1 FROM keeper k WHERE k.id >= 0)));
CREATE TABLE visit (id INTEGER NOT NULL, station_id INTEGER NOT NULL, note VARCHAR(30) CHARACTER SET WIN1252 COLLATE WIN_PTBR, came DATE DEFAULT CURRENT_DATE, CONSTRAINT visit_pk PRIMARY KEY (id), CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE);
CREATE TABLE part (visit_id INTEGER NOT NULL REFERENCES visit (id), line SMALLINT NOT NULL, keeper_id INTEGER, FOREIGN KEY (keeper_id) REFERENCES keeper (id) ON DELETE SET NULL);
CREATE TABLE log (what INTEGER, says VARCHAR(40));
CREATE TABLE "Order" ("a b" INTEGER NOT NULL, "Select" VARCHAR(10), "x""y" INTEGER, CONSTRAINT "the key" UNIQUE ("a b"));
CREATE TABLE a_name_of_thirty_one_bytes_here (station_id INTEGER, other_name_of_thirty_one_bytes_ INTEGER);
CREATE TABLE stamped (what INTEGER, noted TIMESTAMP, CONSTRAINT of_note CHECK (what <> 0));
CREATE GLOBAL TEMPORARY TABLE pass (id INTEGER NOT NULL, station_id INTEGER) ON COMMIT DELETE ROWS;
CREATE GLOBAL TEMPORARY TABLE pass2 (id INTEGER NOT NULL) ON COMMIT PRESERVE ROWS;
CREATE INDEX visit_st ON visit (station_id);
CREATE INDEX visit_st2 ON visit (station_id);
CREATE INDEX visit_day ON visit (came, station_id);
CREATE INDEX visit_day1 ON visit (came);
CREATE DESCENDING INDEX visit_down ON visit (came);
CREATE INDEX visit_up ON visit COMPUTED BY (UPPER(note));
CREATE UNIQUE INDEX station_code ON station (code);
CREATE INDEX station_code2 ON station (code);
CREATE INDEX log_says ON log (says);
COMMIT;
SET TERM ^ ;
CREATE FUNCTION half (n TYPE OF COLUMN station.height) RETURNS TYPE OF COLUMN station.height AS BEGIN RETURN n / 2; END^
CREATE PACKAGE pack AS BEGIN FUNCTION many (n INTEGER) RETURNS INTEGER; END^
CREATE PACKAGE BODY pack AS BEGIN
  FUNCTION inner_count RETURNS INTEGER;
  FUNCTION inner_count RETURNS INTEGER AS DECLARE c INTEGER; BEGIN SELECT COUNT(*) FROM visit INTO :c; RETURN c; END
  FUNCTION many (n INTEGER) RETURNS INTEGER AS BEGIN RETURN inner_count() * n; END
END^
CREATE TRIGGER visit_bi FOR visit BEFORE INSERT POSITION 3 AS BEGIN IF (NEW.id IS NULL) THEN NEW.id = NEXT VALUE FOR visit_no; END^
CREATE TRIGGER visit_log FOR visit AFTER INSERT OR UPDATE OR DELETE POSITION 1 AS BEGIN INSERT INTO log VALUES (COALESCE(NEW.id, OLD.id), 'visit; ^changed'); END^
CREATE TRIGGER visit_off FOR visit INACTIVE BEFORE UPDATE AS BEGIN EXCEPTION too_high; END^
CREATE TRIGGER stamped_bu FOR stamped BEFORE UPDATE AS BEGIN NEW.noted = CURRENT_TIMESTAMP; END^
CREATE TRIGGER on_connects ON CONNECT AS BEGIN RDB$SET_CONTEXT('USER_SESSION', 'seen', '1'); END^
CREATE PROCEDURE add_visit AS BEGIN INSERT INTO visit (station_id, note) VALUES (1, 'by procedure'); INSERT INTO log VALUES (GEN_ID(log_no, 1), 'p'); END^
CREATE PROCEDURE tally (of_code TYPE OF COLUMN station.code = 'S1') RETURNS (n INTEGER) AS DECLARE r TYPE OF COLUMN visit.note; BEGIN FOR SELECT COUNT(*) FROM station s JOIN visit v ON v.station_id = s.id INTO :n DO SUSPEND; END^
SET TERM ; ^
CREATE VIEW tall AS SELECT id, code, height FROM station WHERE height >= 0 WITH CHECK OPTION;
CREATE VIEW tall2 (a, b, c) AS SELECT t.id, t.code, half(t.height) FROM tall t;
CREATE VIEW keepers_view AS SELECT k.*, p.line FROM keeper k LEFT JOIN part p ON p.keeper_id = k.id;
SET TERM ^ ;
CREATE TRIGGER tall2_upd FOR tall2 BEFORE UPDATE AS BEGIN UPDATE station SET code = NEW.b WHERE id = OLD.a; END^
SET TERM ; ^
COMMIT;
COMMENT ON TABLE visit IS 'who came; and when';
COMMENT ON COLUMN visit.note IS 'it''s theirs';
COMMENT ON INDEX visit_st IS 'by station';
COMMENT ON INDEX visit_day1 IS 'of days';
COMMENT ON TRIGGER visit_log IS 'logs';
COMMENT ON DOMAIN code_words IS 'codes';
CREATE ROLE crew;
GRANT crew TO USER guarded;
GRANT SELECT ON station TO USER guarded; GRANT SELECT ON keeper TO USER guarded;
GRANT UPDATE (code) ON station TO USER guarded WITH GRANT OPTION;
GRANT INSERT, SELECT ON visit TO USER guarded;
GRANT ALL ON log TO TRIGGER visit_log;
GRANT SELECT ON station TO PROCEDURE tally; GRANT SELECT ON visit TO PROCEDURE tally;
GRANT INSERT ON visit TO PROCEDURE add_visit; GRANT INSERT ON log TO PROCEDURE add_visit; GRANT USAGE ON SEQUENCE log_no TO PROCEDURE add_visit;
GRANT USAGE ON SEQUENCE visit_no TO TRIGGER visit_bi;
GRANT EXECUTE ON PROCEDURE tally TO PUBLIC; GRANT EXECUTE ON PROCEDURE add_visit TO USER guarded;
GRANT SELECT ON tall2 TO ROLE crew; GRANT SELECT ON tall2 TO USER guarded; GRANT SELECT ON keepers_view TO USER guarded;
GRANT EXECUTE ON FUNCTION half TO VIEW tall2; GRANT SELECT ON tall TO VIEW tall2; GRANT SELECT ON station TO VIEW tall;
GRANT INSERT ON a_name_of_thirty_one_bytes_here TO PUBLIC;
GRANT CREATE TABLE TO USER guarded;
COMMIT;
INSERT INTO keeper VALUES (0, 'nobody', NULL);
SET TERM ^ ;
EXECUTE BLOCK AS DECLARE i INTEGER = 1; BEGIN
  WHILE (i <= 150) DO BEGIN
    INSERT INTO keeper VALUES (:i, 'K' || :i, 'b' || :i);
    INSERT INTO station (id, code, keeper_id, near_id, height) VALUES (:i, 'S' || :i, :i, IIF(MOD(:i, 7) = 0, NULL, 1 + MOD(:i, :i)), :i);
    INSERT INTO visit (station_id, note, came) VALUES (:i, 'n' || :i, DATE '2026-01-01' + :i);
    INSERT INTO visit (station_id, note) VALUES (1, 'm');
    INSERT INTO part (visit_id, line, keeper_id) SELECT FIRST 1 id, MOD(:i, 7), MOD(:i, 11) FROM visit ORDER BY id DESC;
    INSERT INTO stamped VALUES (MOD(:i, 5) + 1, NULL);
    INSERT INTO "Order" VALUES (:i, 'o', NULLIF(:i, 5));
    INSERT INTO a_name_of_thirty_one_bytes_here VALUES (:i, NULLIF(151 - :i, 5));
    i = i + 1;
  END
END^
SET TERM ; ^
COMMIT;
CONNECT '@database@' USER 'GUARDED' PASSWORD 'right';
CREATE TABLE owned (a INTEGER NOT NULL, b INTEGER NOT NULL, CONSTRAINT owned_twice UNIQUE (a, b));
CREATE INDEX owned_a ON owned (a);
CREATE INDEX owned_a2 ON owned (a);
GRANT SELECT ON owned TO USER sysdba WITH GRANT OPTION;
COMMIT;
SET TERM ^ ;
EXECUTE BLOCK AS DECLARE i INTEGER = 1; BEGIN WHILE (i <= 150) DO BEGIN INSERT INTO owned VALUES (:i, MOD(:i, 9)); i = i + 1; END END^
SET TERM ; ^
COMMIT;
