CREATE TABLE spare_part (id INTEGER PRIMARY KEY,
  price REAL, -- want: column/money-approximate "price holds money in REAL" (no fix)
  weight REAL, cents INTEGER);
