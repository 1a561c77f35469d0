-- +goose Up
-- When a member is next sent the figures of the week; null for those who switched it off. Mondays
-- at seven by the clocks of the workspace.
alter table memberships add column weekly_letter_at timestamptz;
update memberships set weekly_letter_at = (date_trunc('week', now() at time zone zone) + interval '7 days 7 hours') at time zone zone
from workspaces where workspaces.id = workspace_id;
create index memberships_weekly_letter on memberships (weekly_letter_at) where weekly_letter_at is not null;
