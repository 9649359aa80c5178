CREATE TABLE spare_part (id integer NOT NULL PRIMARY KEY,
  price float, -- want: column/money-approximate "price holds money in float" (warning)
  weight float, price_index float, list_price numeric(10,2));
CREATE TABLE invoice (id integer NOT NULL PRIMARY KEY,
  total float NOT NULL, -- want: column/money-approximate
  tax_rate float);
CREATE TABLE level (id integer NOT NULL PRIMARY KEY, total float, amount float);
CREATE TABLE prize_fund (id integer NOT NULL PRIMARY KEY,
  amount float NOT NULL); -- want: column/money-approximate
CREATE TABLE promise (id integer NOT NULL PRIMARY KEY,
  currency char(3), amount float); -- want: column/money-approximate "amount holds money"
CREATE TABLE catch (id integer NOT NULL PRIMARY KEY, amount float, fine_sand float, total float, toll_bar_height float);
CREATE TABLE lens (id integer NOT NULL PRIMARY KEY,
  white_balance float, -- want: column/money-approximate "white_balance holds money" (notice)
  focal_length float);
CREATE TABLE berth (id integer NOT NULL PRIMARY KEY,
  fee_eur float); -- want: column/money-approximate (warning)
CREATE TABLE stay (id integer NOT NULL PRIMARY KEY,
  deposit float, -- want: column/money-approximate (warning)
  fee float); -- want: column/money-approximate (warning)
