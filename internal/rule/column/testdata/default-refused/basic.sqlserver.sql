CREATE TABLE station (
  id integer PRIMARY KEY,
  code varchar(3) DEFAULT ('none'),                                               -- want: column/default-refused
  status varchar(9) NOT NULL DEFAULT ('x') CHECK ([status] IN ('a','b')),          -- want: column/default-refused
  grade integer DEFAULT ((0)) CHECK ([grade]>(0)),                                 -- want: column/default-refused
  kind varchar(5) DEFAULT ('a') CHECK ([kind] IN ('a', 'b')),
  share decimal(5,2) DEFAULT ((0.5)) CHECK ([share] BETWEEN 0 AND 1), note nvarchar(9) DEFAULT (NULL)
);
