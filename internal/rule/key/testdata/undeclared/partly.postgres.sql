-- probe
-- no example
CREATE TABLE reader (id integer PRIMARY KEY, email text NOT NULL, badge_code text NOT NULL, gone date);
CREATE UNIQUE INDEX ON reader (lower(email)) WHERE gone IS NULL;
CREATE UNIQUE INDEX ON reader (badge_code) WHERE gone IS NULL;
INSERT INTO reader SELECT i, 'r' || i || '@saltmere.example', 'B' || i FROM generate_series(1, 40) i;
