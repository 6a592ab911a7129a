-- +goose Up

-- a pH that was measured, of a lot or in a batch, and with what
alter table lots add column ph numeric(4, 2) check (ph between 0 and 14);
alter table lots add column ph_with text not null default '' check (ph_with in ('', 'strip', 'meter'));
alter table batch_events add column ph numeric(4, 2) check (ph between 0 and 14);
alter table batch_events add column ph_with text not null default '' check (ph_with in ('', 'strip', 'meter'));
alter table batch_events drop constraint batch_events_kind_check;
alter table batch_events add constraint batch_events_kind_check
    check (kind in ('started', 'weighed', 'took-out', 'left-out', 'taken-in', 'noted', 'measured', 'finished', 'abandoned'));

-- +goose Down
alter table batch_events drop constraint batch_events_kind_check;
alter table batch_events add constraint batch_events_kind_check
    check (kind in ('started', 'weighed', 'took-out', 'left-out', 'taken-in', 'noted', 'finished', 'abandoned')) not valid;
alter table batch_events drop column ph_with;
alter table batch_events drop column ph;
alter table lots drop column ph_with;
alter table lots drop column ph;
