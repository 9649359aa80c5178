CREATE TABLE spare_part (id NUMBER(10) NOT NULL PRIMARY KEY,
  price BINARY_DOUBLE, -- want: column/money-approximate "price holds money in BINARY_DOUBLE" (no fix) (warning)
  weight BINARY_DOUBLE, price_index BINARY_DOUBLE, list_price NUMBER(10,2));
CREATE TABLE invoice (id NUMBER(10) NOT NULL PRIMARY KEY,
  total BINARY_DOUBLE NOT NULL, -- want: column/money-approximate (no fix)
  tax_rate BINARY_DOUBLE);
CREATE TABLE depth (id NUMBER(10) NOT NULL PRIMARY KEY, total BINARY_DOUBLE, amount BINARY_DOUBLE);
CREATE TABLE prize_fund (id NUMBER(10) NOT NULL PRIMARY KEY,
  amount BINARY_DOUBLE NOT NULL); -- want: column/money-approximate (no fix)
CREATE TABLE promise (id NUMBER(10) NOT NULL PRIMARY KEY,
  currency CHAR(3), amount BINARY_DOUBLE); -- want: column/money-approximate "amount holds money" (no fix)
CREATE TABLE catch (id NUMBER(10) NOT NULL PRIMARY KEY, amount BINARY_DOUBLE, fine_sand BINARY_DOUBLE, total BINARY_DOUBLE, toll_bar_height BINARY_DOUBLE);
CREATE TABLE lens (id NUMBER(10) NOT NULL PRIMARY KEY,
  white_balance BINARY_DOUBLE, -- want: column/money-approximate "white_balance holds money" (no fix) (notice)
  focal_length BINARY_DOUBLE);
CREATE TABLE berth (id NUMBER(10) NOT NULL PRIMARY KEY,
  fee_eur BINARY_DOUBLE); -- want: column/money-approximate (no fix) (warning)
CREATE TABLE stay (id NUMBER(10) NOT NULL PRIMARY KEY,
  deposit BINARY_DOUBLE, -- want: column/money-approximate (no fix) (warning)
  fee BINARY_DOUBLE); -- want: column/money-approximate (no fix) (warning)
