-- add primary key (code) to saltmere.station
ALTER TABLE saltmere.station ADD PRIMARY KEY (code) NOT ENFORCED;
