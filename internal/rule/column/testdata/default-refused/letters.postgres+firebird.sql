-- Names and texts that change their length with their case, and names that stand in texts alone.
CREATE TABLE station (id integer PRIMARY KEY, level integer DEFAULT 0, "Ⱥ" integer DEFAULT 0, kind text DEFAULT 'level',
  CHECK (kind <> 'Ⱥ level' AND "Ⱥ" >= 0),
  CHECK (kind IN ('level', 'Ⱥ')));
CREATE TABLE gauge (id integer PRIMARY KEY,
  low integer DEFAULT 0, -- want: column/default-refused
  CHECK (low > 0), CHECK ('ȺȺȺ' <> 'low'));
