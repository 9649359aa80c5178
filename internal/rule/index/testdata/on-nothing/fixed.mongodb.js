// drop index by_staton of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_staton"});

// drop index by_lat of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_lat"});

// drop index by_station of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_station"});
