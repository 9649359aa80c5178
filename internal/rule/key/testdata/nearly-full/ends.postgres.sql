-- A sequence that ends long before its column is let go on, and no column is narrowed or rewritten for it.
CREATE SEQUENCE mooring_no MAXVALUE 1000;
CREATE TABLE mooring (id integer PRIMARY KEY DEFAULT nextval('mooring_no'), code text NOT NULL UNIQUE); -- want: key/nearly-full "sequence mooring_no"
ALTER SEQUENCE mooring_no OWNED BY mooring.id;
SELECT setval('mooring_no', 900);
