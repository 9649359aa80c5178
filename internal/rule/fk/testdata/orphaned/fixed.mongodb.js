// create index observation_station_idx on saltmere.observation
db.runCommand({"createIndexes":"observation","indexes":[{"key":{"station":1},"name":"observation_station_idx"}]});
