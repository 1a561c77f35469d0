-- +goose Up
-- A refund that was asked for and that the service has not confirmed yet: there is one at a time of a payment, so that
-- several at once cannot come to more than was paid.
alter table payments
    add column refunding bigint not null default 0, -- in the smallest unit of the currency; 0 for none
    add column refunding_at timestamptz;
