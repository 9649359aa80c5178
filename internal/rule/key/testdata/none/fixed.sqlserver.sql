-- add column note_id to dbo.note
ALTER TABLE dbo.note ADD note_id bigint IDENTITY(1,1) NOT NULL;

-- add primary key (station_id, kind) to dbo.level
ALTER TABLE dbo.level ADD CONSTRAINT level_pkey PRIMARY KEY NONCLUSTERED (station_id, kind) WITH (ONLINE = ON, RESUMABLE = ON);

-- add primary key (note_id) to dbo.note
ALTER TABLE dbo.note ADD CONSTRAINT note_pkey PRIMARY KEY CLUSTERED (note_id) WITH (ONLINE = ON, RESUMABLE = ON);

-- make the unique constraint (code) of dbo.section its primary key
BEGIN TRANSACTION;
ALTER TABLE dbo.road DROP CONSTRAINT [FK__road__code__35BCFE2A];
ALTER TABLE dbo.section ADD CONSTRAINT section_pkey PRIMARY KEY NONCLUSTERED (code);
ALTER TABLE dbo.section DROP CONSTRAINT section_code;
ALTER TABLE dbo.road WITH CHECK ADD CONSTRAINT [FK__road__code__35BCFE2A] FOREIGN KEY (code) REFERENCES dbo.section (code);
COMMIT;
