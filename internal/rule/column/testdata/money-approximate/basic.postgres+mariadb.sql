CREATE TABLE spare_part (id integer NOT NULL PRIMARY KEY,
  price double precision, -- want: column/money-approximate "price holds money in double" (warning)
  weight double precision, price_index double precision, list_price numeric(10,2));
CREATE TABLE invoice (id integer NOT NULL PRIMARY KEY,
  total double precision NOT NULL, -- want: column/money-approximate
  tax_rate double precision);
CREATE TABLE level (id integer NOT NULL PRIMARY KEY, total double precision, amount double precision);
CREATE TABLE prize_fund (id integer NOT NULL PRIMARY KEY,
  amount double precision NOT NULL); -- want: column/money-approximate
CREATE TABLE promise (id integer NOT NULL PRIMARY KEY,
  currency char(3), amount double precision); -- want: column/money-approximate "amount holds money"
CREATE TABLE catch (id integer NOT NULL PRIMARY KEY, amount double precision, fine_sand double precision, total double precision, toll_bar_height double precision);
CREATE TABLE lens (id integer NOT NULL PRIMARY KEY,
  white_balance double precision, -- want: column/money-approximate "white_balance holds money" (notice)
  focal_length double precision);
CREATE TABLE berth (id integer NOT NULL PRIMARY KEY,
  fee_eur double precision); -- want: column/money-approximate (warning)
CREATE TABLE stay (id integer NOT NULL PRIMARY KEY,
  deposit double precision, -- want: column/money-approximate (warning)
  fee double precision); -- want: column/money-approximate (warning)
