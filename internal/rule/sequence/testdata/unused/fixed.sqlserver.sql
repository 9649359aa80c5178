-- drop sequence dbo.leftover
DROP SEQUENCE dbo.leftover;
