// add unique constraint (badge) to saltmere.keeper
db.runCommand({"createIndexes":"keeper","indexes":[{"key":{"badge":1},"name":"keeper_badge_key","unique":true}]});
