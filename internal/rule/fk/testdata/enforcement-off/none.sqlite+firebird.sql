-- Without a foreign key there is nothing to enforce.
CREATE TABLE station (id INTEGER PRIMARY KEY);
