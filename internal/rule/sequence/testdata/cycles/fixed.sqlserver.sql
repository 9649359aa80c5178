-- let sequence numbers of dbo.station not cycle
ALTER SEQUENCE dbo.numbers INCREMENT BY 1 MINVALUE 1 MAXVALUE 99 NO CYCLE CACHE;
