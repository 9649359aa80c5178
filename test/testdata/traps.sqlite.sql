-- What is no reference and looks like one, and what is one and does not: each line that begins with
-- "is:" or "perhaps:" names one that has to be found, and no other may be.
-- is: gauge (station_id) > station (station_id)
-- is: buoy (proxy_buoyid) > buoy (buoyid)
-- is: buoy (patternid) > buoy (buoyid)
-- is: link (buoyid) > buoy (buoyid)
-- is: sensor (linkid) > link (linkid)
-- is: sensor (chief_sensorid) > sensor (sensorid)
-- is: line (station_id) > station (station_id)
-- is: chart_mark (symbolid_off) > symbol (symbolid)
-- is: chart_mark (symbolid_on) > symbol (symbolid)
-- is: photo (lot_no) > lot (lot_no)
-- is: alarm_dep (alarmid_up) > alarms (alarmid)
-- is: alarm_dep (alarmid_down) > alarms (alarmid)
-- is: alarms (patternid) > alarms (alarmid)
-- perhaps: setup (discovery_crewid) > crew (crewid)
-- perhaps: plate (lang) > lang (lang)
-- perhaps: gauge (patternid) > gauge (gauge_id)

CREATE TABLE station (station_id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, name TEXT, pattern_no INT, sort_no INT, active INT);
CREATE TABLE gauge (gauge_id INTEGER PRIMARY KEY, station_id INT, logger_no INT, position INT, shift_no INT, main INT, unit TEXT DEFAULT '', patternid INT);
CREATE TABLE buoy (buoyid INTEGER PRIMARY KEY, buoy TEXT, proxy_buoyid INT, overhaulid INT, patternid INT, flags INT);
CREATE TABLE sensor (sensorid INTEGER PRIMARY KEY, buoyid INT REFERENCES buoy(buoyid), key_ TEXT, patternid INT REFERENCES sensor(sensorid), scaleid INT, linkid INT, chief_sensorid INT);
CREATE TABLE link (linkid INTEGER PRIMARY KEY, buoyid INT, main INT, type INT, useip INT, port TEXT);
CREATE TABLE alarm_dep (alarmdepid INTEGER PRIMARY KEY, alarmid_up INT, alarmid_down INT);
CREATE TABLE alarms (alarmid INTEGER PRIMARY KEY, description TEXT, patternid INT, lastchange INT, priority INT, status INT);
CREATE TABLE symbol (symbolid INTEGER PRIMARY KEY, name TEXT, imagetype INT);
CREATE TABLE chart_mark (selementid INTEGER PRIMARY KEY, symbolid_off INT, symbolid_on INT, x INT, y INT, elementtype INT);
CREATE TABLE crew (crewid INTEGER PRIMARY KEY, name TEXT); 
CREATE TABLE setup (setupid INTEGER PRIMARY KEY, discovery_crewid INT, refresh INT, alert_usrgrpid INT);
CREATE TABLE line (line_id INTEGER PRIMARY KEY, sheet_no INT, line_no INT, stop_no INT, qty INT, station_id INT);
CREATE TABLE user (user_id INTEGER PRIMARY KEY, login TEXT UNIQUE, display TEXT, blank TEXT);
CREATE TABLE plate (id INTEGER PRIMARY KEY, code TEXT, grp TEXT DEFAULT '', lang TEXT); 
CREATE TABLE lang (lang TEXT PRIMARY KEY, title TEXT);
CREATE TABLE photo (photo_id INTEGER PRIMARY KEY, lot_no INT, taken TEXT);
CREATE TABLE lot (lot_no INTEGER PRIMARY KEY, w REAL);
CREATE TABLE part_a (a INT, b INT, v INT, PRIMARY KEY (a, b)); CREATE TABLE part_b (a INT, b INT, w INT, PRIMARY KEY (a, b), FOREIGN KEY (a, b) REFERENCES part_a (a, b));
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 400) INSERT INTO station SELECT i, 'ST-' || (1000+i*7), 'n' || i, CASE WHEN i%5=0 THEN 1+i%20 END, i%30, i%2 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 900) INSERT INTO gauge SELECT i, 1 + (i*7919)%400, 1 + i%40, 1 + i%12, 1+i%3, i%2, '', NULL FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 300) INSERT INTO buoy SELECT 10000+i, 'h'||i, CASE WHEN i%9=0 THEN 10001+(i*31)%12 END, NULL, CASE WHEN i%3=0 THEN 10001+(i*17)%40 END, i%4 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 2000) INSERT INTO sensor SELECT 20000+i, 10001+(i*37)%300, 'k'||i, CASE WHEN i%4=0 THEN 20001+(i*13)%500 END, NULL, CASE WHEN i%2=0 THEN 1+(i*41)%320 END, CASE WHEN i%11=0 THEN 20001+(i*29)%1500 END FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 320) INSERT INTO link SELECT i, 10001+(i*11)%300, i%2, 1+i%4, i%2, '10050' FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 700) INSERT INTO alarms SELECT 13000+i, 'd'||i, CASE WHEN i%3=0 THEN 13001+(i*19)%200 END, 1700000000+i*37, i%6, i%2 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 250) INSERT INTO alarm_dep SELECT i, 13001+(i*23)%700, 13001+(i*57)%700 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 60) INSERT INTO symbol SELECT i, 'ic'||i, 1+i%2 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 180) INSERT INTO chart_mark SELECT i, 1+(i*7)%60, CASE WHEN i%3=0 THEN 1+(i*11)%60 END, i*3, i*5%97, i%5 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 25) INSERT INTO crew SELECT i, 'g'||i FROM n;
INSERT INTO setup VALUES (1, 5, 30, 7);
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 400) INSERT INTO line SELECT i, 1+i/20, i, 1+i%25, i%7, 1+(i*101)%400 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 120) INSERT INTO user SELECT i, 'u'||i, 'd'||i, '' FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 300) INSERT INTO plate SELECT i, '', '', 'en' FROM n;
INSERT INTO lang VALUES ('', 'none'), ('en', 'English'), ('de', 'x'), ('fr', 'y');
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 200) INSERT INTO lot SELECT 100+i*3, i FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 150) INSERT INTO photo SELECT i, CASE WHEN i > 147 THEN 5000+i ELSE 100+i*3 END, '2026-01-01' FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 200) INSERT INTO part_a SELECT i/10, i%10, i FROM n; INSERT INTO part_b SELECT a, b, v FROM part_a;
CREATE TABLE pontoon (row_id INTEGER PRIMARY KEY, users INT);
CREATE TABLE crane (row_id INTEGER PRIMARY KEY, users INT);
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 300) INSERT INTO pontoon SELECT i, 1+(i*37)%119 FROM n;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 290) INSERT INTO crane SELECT i, 1+(i*53)%117 FROM n;
