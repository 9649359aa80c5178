-- Programs that rest on how many columns a table has: with a column more as its key each of them would fail.
-- as : SELECT count(*) FROM f1(); SELECT count(*) FROM f2(); CALL f3(); CALL f4(); SELECT f6(); SELECT count(*) FROM f8() AS r (a text, b text); SELECT f10()
-- as : INSERT INTO a5 VALUES ('m', 'n'); INSERT INTO a7 VALUES ('m', 'n'); INSERT INTO a11 VALUES ('m', 'n'); DELETE FROM a5 WHERE code = 'm'; DELETE FROM a7 WHERE code = 'm'; DELETE FROM a11 WHERE code = 'm'; DELETE FROM kept WHERE code <> 'k'
-- goes: idle_
CREATE TABLE a1 (code text NOT NULL, name text); CREATE TABLE a2 (code text NOT NULL, name text); CREATE TABLE a3 (code text NOT NULL, name text); CREATE TABLE a4 (code text NOT NULL, name text);
CREATE TABLE a5 (code text NOT NULL, name text); CREATE TABLE a6 (code text NOT NULL, name text); CREATE TABLE a7 (code text NOT NULL, name text); CREATE TABLE a8 (code text NOT NULL, name text);
CREATE TABLE kept (code text, name text); CREATE INDEX ON kept (code);
INSERT INTO a1 VALUES ('x','y'),('x','y'); INSERT INTO a2 TABLE a1; INSERT INTO a3 TABLE a1; INSERT INTO a4 TABLE a1; INSERT INTO a5 TABLE a1; INSERT INTO a6 TABLE a1; INSERT INTO a7 TABLE a1; INSERT INTO a8 TABLE a1;
CREATE FUNCTION f1() RETURNS TABLE (code text, name text) LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT * FROM a1; END $$;
CREATE FUNCTION f2() RETURNS TABLE (c text, n text) LANGUAGE sql AS $$ SELECT * FROM a2 $$;
CREATE PROCEDURE f3() LANGUAGE plpgsql AS $$ BEGIN INSERT INTO kept (code, name) SELECT * FROM a3; END $$;
CREATE PROCEDURE f4() LANGUAGE plpgsql AS $$ BEGIN INSERT INTO kept TABLE a4; END $$;
CREATE FUNCTION f5() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO kept SELECT NEW.*; RETURN NEW; END $$;
CREATE TRIGGER t5 BEFORE INSERT ON a5 FOR EACH ROW EXECUTE FUNCTION f5();
CREATE FUNCTION f6() RETURNS bigint LANGUAGE plpgsql AS $$ BEGIN RETURN (SELECT count(*) FROM (SELECT * FROM a6 EXCEPT SELECT * FROM kept) d); END $$;
CREATE FUNCTION f7() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO kept VALUES (NEW.*); RETURN NEW; END $$;
CREATE TRIGGER t7 BEFORE INSERT ON a7 FOR EACH ROW EXECUTE FUNCTION f7();
CREATE FUNCTION f8() RETURNS SETOF record LANGUAGE plpgsql AS $$ DECLARE r record; BEGIN FOR r IN SELECT * FROM a8 LOOP RETURN NEXT r; END LOOP; END $$;

CREATE TABLE a10 (code text NOT NULL, name text); CREATE TABLE a11 (code text NOT NULL, name text); INSERT INTO a10 TABLE a1; INSERT INTO a11 TABLE a1; INSERT INTO kept VALUES ('k', 'k'), ('k', 'k');
CREATE FUNCTION f10() RETURNS bigint LANGUAGE plpgsql AS $$ DECLARE n bigint; BEGIN WITH gone AS (DELETE FROM a10 WHERE code = 'none' RETURNING *) INSERT INTO kept SELECT g.* FROM gone g; GET DIAGNOSTICS n = ROW_COUNT; RETURN n; END $$;
CREATE FUNCTION f11() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN EXECUTE 'INSERT INTO kept SELECT $1.*' USING NEW; RETURN NEW; END $$;
CREATE TRIGGER t11 AFTER INSERT ON a11 FOR EACH ROW EXECUTE FUNCTION f11();
CREATE TABLE idle (id int PRIMARY KEY, kind int); INSERT INTO idle SELECT i, i % 3 FROM generate_series(1, 50) i; CREATE INDEX idle_first ON idle (kind); CREATE INDEX idle_again ON idle (kind);
CREATE TABLE idle_too (id int PRIMARY KEY, kind int); INSERT INTO idle_too SELECT i, i % 3 FROM generate_series(1, 50) i; CREATE INDEX idle_too_first ON idle_too (kind); CREATE INDEX idle_too_again ON idle_too (kind);
