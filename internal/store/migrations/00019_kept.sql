-- What a process keeps of a workshop (its settings, library, prices, measured pH and
-- sessions) is let go in every process when a statement changes it, whoever runs that.

-- +goose Up
-- +goose StatementBegin
create function tell_kept() returns trigger language plpgsql as $$
begin
    if tg_table_name = 'workshops' then
        perform pg_notify('keencrock_kept', id::text) from changed;
    else
        perform pg_notify('keencrock_kept', of::text) from (select distinct workshop_id as of from changed) q;
    end if;
    return null;
end $$;
-- +goose StatementEnd

create trigger kept_changed after update on workshops referencing new table as changed for each statement execute function tell_kept();
create trigger kept_gone after delete on workshops referencing old table as changed for each statement execute function tell_kept();
create trigger kept_added after insert on lots referencing new table as changed for each statement execute function tell_kept();
create trigger kept_changed after update on lots referencing new table as changed for each statement execute function tell_kept();
create trigger kept_added after insert on measurements referencing new table as changed for each statement execute function tell_kept();
create trigger kept_changed after update on people referencing new table as changed for each statement execute function tell_kept();
create trigger kept_gone after delete on people referencing old table as changed for each statement execute function tell_kept();
create trigger kept_gone after delete on sessions referencing old table as changed for each statement execute function tell_kept();

-- +goose Down
drop trigger kept_changed on workshops;
drop trigger kept_gone on workshops;
drop trigger kept_added on lots;
drop trigger kept_changed on lots;
drop trigger kept_added on measurements;
drop trigger kept_changed on people;
drop trigger kept_gone on people;
drop trigger kept_gone on sessions;
drop function tell_kept();
