-- Addresses (scheme, host and port) that a destination's secrets were given for; null until they are first used.
alter table destination add column secrets_for text[];
