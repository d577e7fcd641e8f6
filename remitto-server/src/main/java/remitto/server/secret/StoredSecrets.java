package remitto.server.secret;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What the database holds that is sealed. */
@Component
class StoredSecrets implements SealedThings {
    private static final String ANY = """
            select exists (select from source) or exists (select from destination) or exists (select from hash_key)
              or exists (select from destination_grant) or exists (select from erasure_key)
              or exists (select from second_factor) or exists (select from receiver)
            """;

    private final JdbcClient jdbc;

    StoredSecrets(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public boolean any() {
        return jdbc.sql(ANY).query(Boolean.class).single();
    }
}
