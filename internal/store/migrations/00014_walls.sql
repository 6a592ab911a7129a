-- Daily work is done with the rights of a role that owns nothing: it sees the rows of
-- the workshop it has named and no others, and what has happened it can add to and not
-- change. The owner of the tables brings them up to date and does no daily work.

-- +goose Up
-- +goose StatementBegin
do $$ begin
    if to_regrole('keencrock_app') is null then
        begin
            create role keencrock_app nologin;
        exception
            when duplicate_object or unique_violation then null; -- made meanwhile
            when insufficient_privilege then
                raise exception 'role “keencrock_app” is missing and “%” may not make it: have it made first (create role keencrock_app; grant keencrock_app to %)', current_user, quote_ident(current_user);
        end;
    end if;
    if not pg_has_role(current_user, 'keencrock_app', 'member') then
        execute format('grant keencrock_app to %I', current_user);
    end if;
    execute format('grant usage on schema %I to keencrock_app', current_schema());
end $$;
-- +goose StatementEnd

-- a workshop that was made to look around in, and can be removed
alter table workshops
    add column demo    boolean not null default false,
    add column loading boolean not null default false; -- not all of it is there yet
update workshops set loading = true where name = 'The demo, still loading';
update workshops w set demo = true
where name in ('Lockside Works', 'The demo, still loading') and exists (select 1 from people p where p.workshop_id = w.id and p.login = 'keeper');

-- Rights ---------------------------------------------------------------------

-- what has happened stays so: held by rights from here on
drop trigger append_only on formula_versions;
drop trigger append_only on events;
drop trigger append_only on movements;
drop trigger append_only on measurements;
drop trigger label_prints_append_only on label_prints;
drop trigger fill_checks_append_only on fill_checks;
drop trigger counted_loads_append_only on counted_loads;
drop function refuse_change;
grant select, insert on formula_versions, events, movements, measurements, label_prints, fill_checks, counted_loads to keencrock_app;

grant select, insert, update on parties, items, makings, lots, pieces, vessels, formulas, use_cards, chores, people to keencrock_app;
grant select, insert, update, delete on allocations, material_settings, own_materials, own_sizes, done_requests, room_readings, sessions, sign_in_tries to keencrock_app;
grant select on goose_db_version to keencrock_app;
grant select, insert on workshops to keencrock_app;
grant update (name, measures, currency, hardness, scale_step_g, scale_capacity_g, drops_per_ml, scoop_ml, laundry_water_l, dishes_water_l,
    loading, time_zone, hygrometer, address, contact, public_jars, machines, version, library_stamp) on workshops to keencrock_app;

-- what is done once for all processes, and when it was last
create table upkeep (
    task    text primary key,
    done_at timestamptz not null,
    failed  text not null default '' -- why it could not be done
);
grant select, insert, update on upkeep to keencrock_app;

-- Rows of one workshop -------------------------------------------------------

-- a connection names its workshop in keencrock.workshop; “*” is for the few questions
-- asked before anyone is signed in
-- +goose StatementBegin
do $$ declare
    t text;
begin
    for t in select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'workshop_id'
        where c.relkind = 'r' and c.relnamespace = current_schema()::regnamespace
    loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd
alter table workshops enable row level security;
create policy of_workshop on workshops to keencrock_app using (
    id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- a code is looked for in any case of letters: in a column, since PostgreSQL uses an
-- index of lower(code) for nobody from whom rows are hidden
alter table lots add column code_folded text not null generated always as (lower(code)) stored;
create index lots_code_folded on lots (workshop_id, code_folded);
drop index lots_code;

-- The demo -------------------------------------------------------------------

-- takes a demo out with all it holds; nothing else is ever removed
-- +goose StatementBegin
create function remove_demo(which uuid) returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare
    t regclass;
    held integer;
begin
    if not exists (select 1 from workshops where id = which and demo) then
        raise exception 'only a demo can be removed';
    end if;
    update lots set ph = null where workshop_id = which; -- a lot and its measurements name each other
    for round in 1 .. 32 loop
        held := 0;
        for t in select c.oid from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'workshop_id'
            where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
        loop
            begin
                execute format('delete from %s where workshop_id = $1', t) using which;
            exception when foreign_key_violation then
                held := held + 1; -- by rows of a table that comes later
            end;
        end loop;
        exit when held = 0;
    end loop;
    delete from workshops where id = which;
end $$;
-- +goose StatementEnd
revoke all on function remove_demo(uuid) from public;
grant execute on function remove_demo(uuid) to keencrock_app;

-- a demo that is worked in for real is none any more
-- +goose StatementBegin
create function keep_demo(which uuid) returns void language plpgsql security definer set search_path = public, pg_temp as $$
begin
    update workshops set demo = false where id = which;
end $$;
-- +goose StatementEnd
revoke all on function keep_demo(uuid) from public;
grant execute on function keep_demo(uuid) to keencrock_app;

-- +goose Down
-- +goose StatementBegin
do $$ begin
    raise exception 'there is no way back from here: restore what was backed up before it';
end $$;
-- +goose StatementEnd
