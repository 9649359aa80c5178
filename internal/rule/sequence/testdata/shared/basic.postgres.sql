-- One sequence for two tables; heirs of one table are numbered together.
CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint PRIMARY KEY DEFAULT nextval('numbers')); -- want: sequence/shared "sequence numbers numbers station and visit together"
CREATE TABLE visit (id bigint PRIMARY KEY DEFAULT nextval('numbers'));
CREATE TABLE keeper (id bigserial PRIMARY KEY);
CREATE TABLE parent (id bigserial PRIMARY KEY);
CREATE TABLE heir (PRIMARY KEY (id)) INHERITS (parent);
