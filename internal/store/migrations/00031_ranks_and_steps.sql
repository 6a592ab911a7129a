-- Trials in which each pair is put in order, and how long hands were at the steps of a batch.

-- +goose Up
alter table trials add column ranked boolean not null default false; -- marks are places, 1 for the best
alter table makings add column step_times jsonb; -- kind and minutes of each step that hands were at; null where nobody counted
alter table figures_as_usual drop constraint figures_as_usual_kind_check;
alter table figures_as_usual add constraint figures_as_usual_kind_check check (kind in ('density', 'piece', 'size', 'drying', 'keeping', 'step'));

-- +goose Down
delete from figures_as_usual where kind = 'step';
alter table figures_as_usual drop constraint figures_as_usual_kind_check;
alter table figures_as_usual add constraint figures_as_usual_kind_check check (kind in ('density', 'piece', 'size', 'drying', 'keeping'));
alter table makings drop column step_times;
alter table trials drop column ranked;
