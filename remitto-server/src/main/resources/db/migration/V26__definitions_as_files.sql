-- By which name the file of a definition is found; it stays when the definition is renamed.
create table definition_name (
  kind text not null,
  id text not null,
  slug text not null,
  primary key (kind, id),
  unique (kind, slug)
);
