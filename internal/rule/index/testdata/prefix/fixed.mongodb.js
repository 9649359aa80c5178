// drop index by_station of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_station"});

// drop index by_at of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_at"});

// drop index by_station_at of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_station_at"});
