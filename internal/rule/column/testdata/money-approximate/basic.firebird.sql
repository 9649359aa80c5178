CREATE TABLE spare_part (id integer NOT NULL PRIMARY KEY,
  price double precision, -- want: column/money-approximate (no fix)
  cost float NOT NULL, -- want: column/money-approximate (no fix)
  amount_due numeric(9,2), weight double precision);
