-- Persons and companies are joined by the same machinery.
alter table identity_source
  add column about text not null default 'PERSON',
  -- The dataset of companies, and the column that holds its key, by which a person belongs to a company.
  add column company_dataset bigint references dataset,
  add column company_column text not null default '';

alter table identity_run
  add column about text not null default 'PERSON',
  add column whole boolean not null default true,
  add column stage text not null default '',
  add column done bigint not null default 0,
  -- What a guard said, if the run waits for an approver.
  add column stopped jsonb,
  add column decided_by text not null default '';

alter table person
  add column about text not null default 'PERSON',
  -- Kept values by attribute, as they are sent.
  add column attributes jsonb not null default '{}',
  -- Keys of all linked records, by dataset.
  add column keys jsonb not null default '{}',
  add column since timestamptz not null default now(),
  add column changed_at timestamptz not null default now(),
  -- When the next yes to something expires.
  add column expires_at timestamptz;
create index person_about on person (about, records desc, id);
create index person_expires on person (expires_at) where expires_at is not null;

alter table identity_record
  add column about text not null default 'PERSON',
  -- Over all that the source says; 0 for one that is to be read anew.
  add column fingerprint bigint not null default 0,
  add column tidied text[] not null default '{}',
  -- What its judgements with others hang on; 0 for one that is to be judged anew.
  add column signature bigint not null default 0,
  add column company_dataset bigint,
  add column company_key text not null default '';
create index identity_record_company on identity_record (company_dataset, company_key)
  where company_dataset is not null;

alter table identity_link
  add column about text not null default 'PERSON',
  add column rule smallint not null default -1;
create index identity_link_other on identity_link (other_dataset, other_key);
create index identity_link_one on identity_link (one_dataset, one_key);

alter table retired_person add column about text not null default 'PERSON';

-- What decides who is one person; a version never changes once saved.
create table identity_rules (
  about text not null,
  number int not null,
  definition jsonb not null,
  author text not null,
  saved_at timestamptz not null,
  note text not null,
  primary key (about, number)
);

create table identity_setting (
  about text primary key,
  live_rules int not null default 0,
  put_by text not null default '',
  -- Estimated weights, what they were estimated for, and when.
  weights jsonb,
  weights_for text not null default '',
  estimated_at timestamptz,
  -- What the persons of now were judged by.
  judged_by text not null default '',
  guards jsonb not null,
  schedule jsonb not null,
  next_run timestamptz
);

-- What became of persons.
create table person_event (
  id bigint generated always as identity primary key,
  person_id bigint not null,
  run_id bigint not null,
  at timestamptz not null,
  kind text not null,
  other_id bigint,
  words text not null
);
create index person_event_person on person_event (person_id, id);

-- What the people's own reader may see.
create schema if not exists people;

update identity_source set columns = coalesce(
  (select jsonb_agg(tied || '{"beside": {}}'::jsonb) from jsonb_array_elements(columns) tied), '[]'::jsonb);
