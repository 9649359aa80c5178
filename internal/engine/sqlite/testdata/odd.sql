-- What the grammar lets pass, and real schemas hold.
CREATE TABLE "a b" (id integer primary key desc, x int unique unique, y text not null unique on conflict replace, "unique" unique);
CREATE TABLE types (a, b "quoted type", c 'string type', d [bracket type], e unsigned big int(10, 5), f VARCHAR ( 20 ), g int generated always as (1), h double
  precision, i text generated always as ('x') stored, j varying character(255) default ( 'a' || 'b' ) , k default +5, l default - 5, m default 1e3, n default x'00', o default "abc", p default current_timestamp, q integer default null);
CREATE TABLE keys (a int, b int, c int, primary key (b, a), unique (a, b), unique (b, a), unique (c collate nocase desc), constraint named unique (a) constraint named2 unique (b) check (a > 0) check(b>0));
CREATE TABLE auto (id INTEGER CONSTRAINT pk PRIMARY KEY AUTOINCREMENT NOT NULL, x text);
CREATE TABLE strict_keys (a text, b int, c any, primary key (a, b)) strict;
CREATE TABLE wr (a integer primary key, b text unique) without rowid;
CREATE TABLE wr2 (a text, b text, c text unique, primary key (a, b)) strict, without rowid;
CREATE TABLE parent (x int, y int, primary key (x, y));
CREATE TABLE child (a int references parent, X2 int, y2 int references "PARENT" (X) on update set  /* comment */ null match full, constraint fk foreign key (x2, Y2) references Parent (X, Y) on delete cascade not deferrable initially immediate, foreign key (a) references nowhere (z) deferrable initially deferred);
CREATE INDEX i1 ON types (a, "b" collate nocase desc, c);
CREATE INDEX i2 ON types ((a), b);
CREATE INDEX i3 ON types (lower(b) collate rtrim asc, a + 1) where a is not null and b in ('x', ')');
CREATE UNIQUE INDEX IF NOT EXISTS i4 ON types (`d` , [e] DESC)
  where "f" > 5;
CREATE INDEX i5 ON child (a collate binary);
CREATE TABLE copied AS SELECT 1 AS one, 'two' AS "two three";
CREATE TABLE "quote""d" ("na""me" text collate nocase constraint "c""1" not null constraint c2 default 'x');
CREATE INDEX "i""6" ON "quote""d" ("na""me" collate nocase);
CREATE TABLE implied (id int primary key not null, rowid int, unique (rowid));
