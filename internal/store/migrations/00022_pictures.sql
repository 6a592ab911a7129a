-- Photos in the log of a batch. What a picture is made of stands in a table of its own, so
-- that it can be kept elsewhere, and is gone when it is taken back.

-- +goose Up
create table pictures (
    workshop_id uuid     not null references workshops,
    id          uuid     not null,
    event_id    bigint   not null, -- that put it there
    width       integer  not null check (width between 1 and 10000),
    height      integer  not null check (height between 1 and 10000),
    primary key (workshop_id, id),
    unique (workshop_id, event_id),
    foreign key (workshop_id, event_id) references events
);
create table picture_files (
    workshop_id uuid  not null,
    picture_id  uuid  not null,
    jpeg        bytea not null check (length(jpeg) between 1 and 4000000),
    primary key (workshop_id, picture_id),
    foreign key (workshop_id, picture_id) references pictures on delete cascade
);
alter table picture_files alter column jpeg set storage external; -- it is compressed already
grant select, insert, delete on pictures, picture_files to keencrock_app;
alter table pictures enable row level security;
create policy of_workshop on pictures to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));
alter table picture_files enable row level security;
create policy of_workshop on picture_files to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- +goose Down
drop table picture_files;
drop table pictures;
