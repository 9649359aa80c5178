-- let sequence numbers of station not cycle
ALTER SEQUENCE `numbers` NOCYCLE;
