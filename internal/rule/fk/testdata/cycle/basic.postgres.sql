-- A ring of three, one that can be broken at a null, one that is checked late,
-- and a table that refers to itself.
CREATE TABLE a (id integer PRIMARY KEY, c_id integer NOT NULL); -- want: fk/cycle
CREATE TABLE b (id integer PRIMARY KEY, a_id integer NOT NULL CONSTRAINT b_a REFERENCES a (id));
CREATE TABLE c (id integer PRIMARY KEY, b_id integer NOT NULL CONSTRAINT c_b REFERENCES b (id));
ALTER TABLE a ADD CONSTRAINT a_c FOREIGN KEY (c_id) REFERENCES c (id);
CREATE TABLE d (id integer PRIMARY KEY, e_id integer);
CREATE TABLE e (id integer PRIMARY KEY, d_id integer NOT NULL REFERENCES d (id));
ALTER TABLE d ADD FOREIGN KEY (e_id) REFERENCES e (id);
CREATE TABLE f (id integer PRIMARY KEY, g_id integer NOT NULL);
CREATE TABLE g (id integer PRIMARY KEY, f_id integer NOT NULL REFERENCES f (id));
ALTER TABLE f ADD FOREIGN KEY (g_id) REFERENCES g (id) DEFERRABLE INITIALLY DEFERRED;
CREATE TABLE h (id integer PRIMARY KEY, h_id integer NOT NULL REFERENCES h (id));
CREATE INDEX i1 ON a (c_id); CREATE INDEX i2 ON b (a_id); CREATE INDEX i3 ON c (b_id); CREATE INDEX i4 ON d (e_id);
CREATE INDEX i5 ON e (d_id); CREATE INDEX i6 ON f (g_id); CREATE INDEX i7 ON g (f_id); CREATE INDEX i8 ON h (h_id);
