-- change the type of berth.fee_eur to decimal(19,4)
ALTER TABLE `berth` MODIFY COLUMN `fee_eur` decimal(19,4) NULL;

-- change the type of invoice.total to decimal(19,4)
ALTER TABLE `invoice` MODIFY COLUMN `total` decimal(19,4) NOT NULL;

-- change the type of lens.white_balance to decimal(19,4)
ALTER TABLE `lens` MODIFY COLUMN `white_balance` decimal(19,4) NULL;

-- change the type of prize_fund.amount to decimal(19,4)
ALTER TABLE `prize_fund` MODIFY COLUMN `amount` decimal(19,4) NOT NULL;

-- change the type of promise.amount to decimal(19,4)
ALTER TABLE `promise` MODIFY COLUMN `amount` decimal(19,4) NULL;

-- change the type of spare_part.price to decimal(19,4)
ALTER TABLE `spare_part` MODIFY COLUMN `price` decimal(19,4) NULL;

-- change the type of stay.deposit to decimal(19,4); change the type of stay.fee to decimal(19,4)
ALTER TABLE `stay` MODIFY COLUMN `deposit` decimal(19,4) NULL, MODIFY COLUMN `fee` decimal(19,4) NULL;
