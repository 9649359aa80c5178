-- not mysql: the stand-in keeps all tables alike
-- Where no other table has them it is a notice.
CREATE TABLE reading (id int NOT NULL PRIMARY KEY, level_mm int) ENGINE = MyISAM; -- want: storage/no-transactions "without transactions and foreign keys$" (no fix) (notice)
