-- not mysql: it has no sequence engine
-- probe
-- no example
-- Values that have to be quoted in more than one way.
CREATE TABLE mark (id integer NOT NULL PRIMARY KEY,
  state varchar(20) NOT NULL, -- want: column/code-unchecked
  kind varchar(20) NOT NULL); -- want: column/code-unchecked
INSERT INTO mark SELECT seq, elt(1 + seq % 4, 'a''b', 'c"d', 'back\\slash', 'two\nlines'), elt(1 + seq % 3, '🌊', '⚓', 'x;--') FROM seq_1_to_700;
