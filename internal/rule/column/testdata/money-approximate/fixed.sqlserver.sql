-- change the type of dbo.berth.fee_eur to decimal(19,4)
ALTER TABLE dbo.berth ALTER COLUMN fee_eur decimal(19,4) NULL;

-- change the type of dbo.invoice.total to decimal(19,4)
ALTER TABLE dbo.invoice ALTER COLUMN total decimal(19,4) NOT NULL;

-- change the type of dbo.lens.white_balance to decimal(19,4)
ALTER TABLE dbo.lens ALTER COLUMN white_balance decimal(19,4) NULL;

-- change the type of dbo.prize_fund.amount to decimal(19,4)
ALTER TABLE dbo.prize_fund ALTER COLUMN amount decimal(19,4) NOT NULL;

-- change the type of dbo.promise.amount to decimal(19,4)
ALTER TABLE dbo.promise ALTER COLUMN amount decimal(19,4) NULL;

-- change the type of dbo.spare_part.price to decimal(19,4)
ALTER TABLE dbo.spare_part ALTER COLUMN price decimal(19,4) NULL;

-- change the type of dbo.stay.deposit to decimal(19,4); change the type of dbo.stay.fee to decimal(19,4)
BEGIN TRANSACTION;
ALTER TABLE dbo.stay ALTER COLUMN deposit decimal(19,4) NULL;
ALTER TABLE dbo.stay ALTER COLUMN fee decimal(19,4) NULL;
COMMIT;
