-- rename foreign key FK__gauge__stati__35BCFE2A of dbo.gauge to fk_gauge_station
EXEC sys.sp_rename N'dbo.[FK__gauge__stati__35BCFE2A]', N'fk_gauge_station', N'OBJECT';

-- rename primary key PK__gauge__E7FC4F864D197022 of dbo.gauge to pk_gauge
EXEC sys.sp_rename N'dbo.[PK__gauge__E7FC4F864D197022]', N'pk_gauge', N'OBJECT';

-- rename unique key UQ__station__0484B3EE5871AED2 of dbo.station to uq_station_code
EXEC sys.sp_rename N'dbo.[UQ__station__0484B3EE5871AED2]', N'uq_station_code', N'OBJECT';
