-- rename foreign key gauge_at of dbo.gauge to fk_gauge_station
EXEC sys.sp_rename N'dbo.gauge_at', N'fk_gauge_station', N'OBJECT';

-- rename index gauge_station of dbo.gauge to ix_gauge_station_id
EXEC sys.sp_rename N'dbo.gauge.gauge_station', N'ix_gauge_station_id', N'INDEX';

-- rename primary key pk_g of dbo.gauge to pk_gauge
EXEC sys.sp_rename N'dbo.pk_g', N'pk_gauge', N'OBJECT';
