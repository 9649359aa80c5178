-- rename index gauge_serial_x of gauge to ix_gauge_serial
ALTER TABLE `gauge` RENAME INDEX `gauge_serial_x` TO `ix_gauge_serial`, ALGORITHM=INPLACE, LOCK=NONE;
