-- change the type of public.berth.fee_eur to numeric(19,4)
ALTER TABLE public.berth ALTER COLUMN fee_eur TYPE numeric(19,4) USING fee_eur::numeric(19,4);

-- change the type of public.invoice.total to numeric(19,4)
ALTER TABLE public.invoice ALTER COLUMN total TYPE numeric(19,4) USING total::numeric(19,4);

-- change the type of public.lens.white_balance to numeric(19,4)
ALTER TABLE public.lens ALTER COLUMN white_balance TYPE numeric(19,4) USING white_balance::numeric(19,4);

-- change the type of public.prize_fund.amount to numeric(19,4)
ALTER TABLE public.prize_fund ALTER COLUMN amount TYPE numeric(19,4) USING amount::numeric(19,4);

-- change the type of public.promise.amount to numeric(19,4)
ALTER TABLE public.promise ALTER COLUMN amount TYPE numeric(19,4) USING amount::numeric(19,4);

-- change the type of public.spare_part.price to numeric(19,4)
ALTER TABLE public.spare_part ALTER COLUMN price TYPE numeric(19,4) USING price::numeric(19,4);

-- change the type of public.stay.deposit to numeric(19,4); change the type of public.stay.fee to numeric(19,4)
ALTER TABLE public.stay ALTER COLUMN deposit TYPE numeric(19,4) USING deposit::numeric(19,4), ALTER COLUMN fee TYPE numeric(19,4) USING fee::numeric(19,4);
