-- The journal, in a schema that can be given to a role nobody signs in as; what it says in words is kept apart from what is chained, so
-- that a person's right to be forgotten reaches the words and the chain holds all the same.
create schema ledger;
alter table journal set schema ledger;
alter function journal_is_append_only() set schema ledger;
alter table ledger.journal add column words bytea not null default '';
alter table ledger.journal disable trigger journal_append_only;

create table journal_words (
  journal_id bigint primary key references ledger.journal,
  subject text not null,
  detail text not null,
  -- Taken away together with the words, so that they cannot be guessed from the digest that stays.
  salt bytea not null
);
insert into journal_words select id, subject, detail, uuid_send(gen_random_uuid()) from ledger.journal;
update ledger.journal j set subject = '', detail = '',
  words = sha256(w.salt || convert_to(octet_length(w.subject)::text || ':' || w.subject || w.detail, 'UTF8'))
  from journal_words w where w.journal_id = j.id;
alter table ledger.journal alter column words drop default;
alter table ledger.journal drop column subject;
alter table ledger.journal drop column detail;
alter table ledger.journal enable trigger journal_append_only;

-- Each entry once, in the order in which they were sealed; a hash goes over the one before.
create table ledger.journal_seal (
  seal_no bigint primary key,
  journal_id bigint not null unique references ledger.journal,
  sealed_at timestamptz not null,
  hash bytea not null
);
create trigger journal_seal_append_only before update or delete on ledger.journal_seal
  for each row execute function ledger.journal_is_append_only();
create trigger journal_not_emptied before truncate on ledger.journal
  for each statement execute function ledger.journal_is_append_only();
create trigger journal_seal_not_emptied before truncate on ledger.journal_seal
  for each statement execute function ledger.journal_is_append_only();

-- Which records of routes an address was sent with, or is known of, by the first half of the SHA-256 of the tidied address: what is
-- kept of a person is found by it, and nothing but addresses is looked for.
create table address_trace (
  address bytea not null,
  route_id bigint not null references route,
  ordinal int not null,
  primary key (address, route_id, ordinal)
);
create index address_trace_of_record on address_trace (route_id, ordinal);
alter table run add column traced_at timestamptz;
create index run_untraced on run (id) where traced_at is null;

-- Lines acknowledged by run and quarter of an hour, so that the board need not count them.
create table answered_quarter (
  run_id bigint not null references run,
  quarter timestamptz not null,
  records bigint not null,
  primary key (run_id, quarter)
);
create index answered_quarter_by_time on answered_quarter (quarter);
insert into answered_quarter
select run_id, date_bin('15 minutes', answered_at, 'epoch'), count(*) from line_outcome
where state = 'ACKNOWLEDGED' and answered_at is not null group by 1, 2;

-- How long each kind of data is kept; a kind that is not here is kept for good.
create table retention (
  kind text primary key,
  days int not null check (days between 7 and 36500),
  changed_by text not null,
  changed_at timestamptz not null
);
-- What a manifest brought, once its lines are gone.
alter table run add column outcomes jsonb;
alter table run add column lines_removed_at timestamptz;

-- What an erasure could not reach, in words for its receipt.
alter table erasure add column unreached jsonb not null default '[]';

-- Manifests that could not be drawn up since their destination did not answer; they are drawn up again when it does.
create index run_waits_for_answer on run (route_id, id) where state = 'FAILED' and halt = 'CIRCUIT';

-- A line whose record is judged again next time, whatever its row is then, since a value of it was held. The fingerprint of its row is
-- kept all the same: what was refused, or may have arrived, is not sent again with the same row.
alter table manifest_line add column again boolean not null default false;
