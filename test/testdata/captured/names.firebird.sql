-- Names and texts that look like what a capture is made of, or end statements.
CREATE TABLE "@done 1" ("@row 9 [""x""]" INTEGER NOT NULL PRIMARY KEY, "a  b" VARCHAR(9), "^;" INTEGER, "x
y" INTEGER, "tab	" INTEGER, "it's \""" INTEGER);
CREATE TABLE "ä水 ß" ("@end x 0" INTEGER, "  " INTEGER, "null" INTEGER);
COMMENT ON TABLE "@done 1" IS '@nexdal 1 firebird
@done 3
	"\" ends  with   blanks   ';
CREATE SEQUENCE "q""';^";
SET TERM ^ ;
CREATE PROCEDURE "p;" AS
BEGIN
  /* @failed
@ask x */
  IF (1 = 0) THEN EXECUTE STATEMENT 'it''s; "so"';
END^
SET TERM ; ^
CREATE VIEW "@ask v" ("@x") AS SELECT 'very   long                                                                                                                                                                                                                                                              text' FROM rdb$database;
