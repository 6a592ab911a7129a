-- +goose Up

-- a line that a batch can be finished without, and that it was left out, or
-- taken in again
alter table batch_lines add column optional boolean not null default false;
update batch_lines l set optional = true
from batches b join formula_versions v on v.formula_id = b.formula_id and v.version = b.formula_version
where b.id = l.batch_id and (v.file -> 'lines' -> l.line ->> 'optional')::boolean;
alter table batch_events drop constraint batch_events_kind_check;
alter table batch_events add constraint batch_events_kind_check
    check (kind in ('started', 'weighed', 'took-out', 'left-out', 'taken-in', 'noted', 'finished', 'abandoned'));

-- tries are counted by a name from an address
create index sign_in_tries_pair on sign_in_tries (login, address, at);
drop index sign_in_tries_login;
drop index sign_in_tries_address;

-- +goose Down
create index sign_in_tries_login on sign_in_tries (login, at);
create index sign_in_tries_address on sign_in_tries (address, at);
drop index sign_in_tries_pair;
alter table batch_events drop constraint batch_events_kind_check;
alter table batch_events add constraint batch_events_kind_check
    check (kind in ('started', 'weighed', 'took-out', 'noted', 'finished', 'abandoned')) not valid;
alter table batch_lines drop column optional;
