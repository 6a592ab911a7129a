-- +goose Up

-- what was asked with a key, and what was answered: the same key is done once
create table done_requests (
    workshop_id uuid        not null references workshops,
    key         uuid        not null,
    request     bytea       not null, -- a hash of all that was asked
    status      integer     not null default 0, -- 0 until it is answered
    media       text        not null default '',
    answer      bytea,
    at          timestamptz not null,
    primary key (workshop_id, key)
);
create index done_requests_oldest on done_requests (workshop_id, at);

-- +goose Down
drop table done_requests;
