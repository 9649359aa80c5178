-- change the type of public.invoice.total to numeric(19,4)
ALTER TABLE public.invoice ALTER COLUMN total TYPE numeric(19,4) USING total::numeric(19,4);

-- change the type of public.prize_fund.amount to numeric(19,4)
ALTER TABLE public.prize_fund ALTER COLUMN amount TYPE numeric(19,4) USING amount::numeric(19,4);

-- change the type of public.promise.amount to numeric(19,4)
ALTER TABLE public.promise ALTER COLUMN amount TYPE numeric(19,4) USING amount::numeric(19,4);

-- change the type of public.spare_part.price to numeric(19,4)
ALTER TABLE public.spare_part ALTER COLUMN price TYPE numeric(19,4) USING price::numeric(19,4);
