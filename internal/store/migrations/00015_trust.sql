-- Who is signed in where, second factors, and what was done that an owner should know.

-- +goose Up
alter table sessions
    add column id             uuid        not null default gen_random_uuid(),
    add column last_seen_at   timestamptz not null default now(),
    add column address        text        not null default '',
    add column agent          text        not null default '',
    add column known_password boolean     not null default false; -- that of the demo, which is public
create unique index sessions_id on sessions (id);

-- a second factor (RFC 6238): on once a first code was right; a step serves once
alter table people
    add column totp_secret text    not null default '',
    add column totp_on     boolean not null default false,
    add column totp_step   bigint  not null default 0,
    add column known_password boolean not null default false; -- as sessions.known_password
update people p set known_password = true from workshops w where w.id = p.workshop_id and w.demo;

-- codes for who lost their second factor, each for one time; only hashes are kept
create table recovery_codes (
    workshop_id uuid  not null references workshops,
    person_id   uuid  not null,
    hash        bytea not null,
    primary key (workshop_id, person_id, hash),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
grant select, insert, delete on recovery_codes to keencrock_app;

create table audit (
    workshop_id uuid        not null references workshops,
    id          bigint      generated always as identity,
    kind        text        not null,
    person_id   uuid,
    about       text        not null default '',
    address     text        not null default '',
    request     text        not null default '', -- its id in the log
    at          timestamptz not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
grant select, insert on audit to keencrock_app;

alter table recovery_codes enable row level security;
alter table audit enable row level security;
create policy of_workshop on recovery_codes to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));
create policy of_workshop on audit to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- +goose Down
drop table audit;
drop table recovery_codes;
alter table people drop column totp_secret, drop column totp_on, drop column totp_step, drop column known_password;
alter table sessions drop column id, drop column last_seen_at, drop column address, drop column agent, drop column known_password;
