-- The engine keeps no record of what routines rest on: a type that one of them declares, or finds a function by, stays.
CREATE TABLE station (id bigint PRIMARY KEY, code varchar(20) NOT NULL UNIQUE);
CREATE TABLE returned (id bigint PRIMARY KEY, station_id integer REFERENCES station (id)); -- want: fk/type-differs "cannot hold every key" (no fix)
CREATE TABLE given (id bigint PRIMARY KEY, station_id integer REFERENCES station (id)); -- want: fk/type-differs (no fix)
CREATE TABLE fired (id bigint PRIMARY KEY, station_id smallint REFERENCES station (id)); -- want: fk/type-differs (no fix)
CREATE TABLE counted (id bigint PRIMARY KEY, station_id integer REFERENCES station (id)); -- want: fk/type-differs
CREATE TABLE wide (id bigint PRIMARY KEY, station_id integer REFERENCES station (id)); -- want: fk/type-differs
CREATE INDEX ON returned (station_id); CREATE INDEX ON given (station_id); CREATE INDEX ON fired (station_id); CREATE INDEX ON counted (station_id); CREATE INDEX ON wide (station_id);
CREATE FUNCTION returns() RETURNS SETOF integer LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT station_id FROM returned; END $$;
CREATE FUNCTION named(n integer) RETURNS text LANGUAGE sql AS $$ SELECT 'station ' || n $$;
CREATE FUNCTION long_named(n bigint) RETURNS text LANGUAGE sql AS $$ SELECT 'station ' || n $$;
CREATE FUNCTION gives() RETURNS text LANGUAGE sql AS $$ SELECT named(g.station_id) FROM given g LIMIT 1 $$;
CREATE FUNCTION fires() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM named(NEW.station_id); RETURN NEW; END $$;
CREATE TRIGGER fires BEFORE INSERT ON fired FOR EACH ROW EXECUTE FUNCTION fires();
CREATE FUNCTION counts(station_id integer) RETURNS bigint LANGUAGE sql AS $$ SELECT count(c.station_id) FROM counted c WHERE c.station_id = $1 $$;
CREATE FUNCTION widens() RETURNS text LANGUAGE sql AS $$ SELECT long_named(w.station_id) FROM wide w LIMIT 1 $$;
