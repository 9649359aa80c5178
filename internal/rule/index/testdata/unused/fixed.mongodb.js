// drop index by_at of saltmere.reading
db.runCommand({"dropIndexes":"reading","index":"by_at"});
