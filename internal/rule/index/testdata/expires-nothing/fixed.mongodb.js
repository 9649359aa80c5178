// drop index forget_at of saltmere.alert
db.runCommand({"dropIndexes":"alert","index":"forget_at"});

// drop index forget_sent of saltmere.alert
db.runCommand({"dropIndexes":"alert","index":"forget_sent"});
