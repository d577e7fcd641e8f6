-- Gives the journal to a role that nobody signs in as. Run once by a superuser in Remitto's database, after its first start:
--   psql -v server=remitto -f lock-journal.sql remitto
-- From then on the login of the server can read the journal and add to it, and neither change nor remove anything of it.
do $$ begin
  if not exists (select from pg_roles where rolname = 'remitto_journal') then
    create role remitto_journal nologin nosuperuser nocreatedb nocreaterole;
  end if;
end $$;
alter schema ledger owner to remitto_journal;
alter table ledger.journal owner to remitto_journal;
alter table ledger.journal_seal owner to remitto_journal;
alter function ledger.journal_is_append_only() owner to remitto_journal;
revoke all on schema ledger from public;
revoke all on all tables in schema ledger from public, :"server";
grant usage on schema ledger to :"server";
grant select, insert on ledger.journal, ledger.journal_seal to :"server";
-- A reference to an entry locks it for a moment, with the rights of the owner; the entry itself stays as it is.
grant usage on schema public to remitto_journal;
