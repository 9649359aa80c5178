// create index observation_seen_by_keeper_idx on saltmere.observation
db.runCommand({"createIndexes":"observation","indexes":[{"key":{"seen_by.keeper":1},"name":"observation_seen_by_keeper_idx"}]});

// create index observation_station_idx on saltmere.observation
db.runCommand({"createIndexes":"observation","indexes":[{"key":{"station":1},"name":"observation_station_idx"}]});
