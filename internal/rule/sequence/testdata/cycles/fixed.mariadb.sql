-- let sequence numbers of station end
ALTER SEQUENCE `numbers` NOCYCLE;
