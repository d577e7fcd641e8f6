package remitto.server.source;

import jakarta.annotation.PreDestroy;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import remitto.connect.database.CheckedTexts;
import remitto.connect.database.DatabaseConnections;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.DatabaseSource;
import remitto.connect.database.Dialect;
import remitto.connect.declared.DeclaredDialect;
import remitto.connect.declared.DeclaredDialects;
import remitto.connect.mariadb.MariaDialect;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresDialect;
import remitto.connect.source.Readers;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceQuery;
import remitto.server.platform.Problem;

/** The kinds of database that can be read: those that we bring, and those that the installation's folder of dialects declares. */
@Component
class Dialects {
    static final String POSTGRESQL = "postgresql";

    private static final Logger LOG = LoggerFactory.getLogger(Dialects.class);

    private final Map<String, Reading> byName = new LinkedHashMap<>();

    /** @param folder of declared dialects; blank for none */
    Dialects(@Value("${remitto.dialects-folder}") String folder) {
        add(new KnownDialect(POSTGRESQL, "PostgreSQL", 5432, true), PostgresDialect.dialect());
        add(new KnownDialect("mariadb", "MariaDB", 3306, true), MariaDialect.dialect());
        if (!folder.isBlank()) {
            DeclaredDialects.Found found = DeclaredDialects.in(Path.of(folder));
            found.problems().forEach(problem -> LOG.warn("A dialect is left out: {}", problem));
            found.dialects().forEach(this::add);
        }
    }

    /**
     * A kind of database that can be read.
     *
     * @param name as addresses say it
     * @param title what it is called
     * @param port that such servers usually listen on
     * @param tls whether connections to it can be encrypted
     */
    record KnownDialect(String name, String title, int port, boolean tls) {}

    private record Reading(
            KnownDialect known,
            Dialect<DatabaseSettings> dialect,
            DatabaseConnections<DatabaseSettings> connections,
            CheckedTexts checked) {}

    private void add(DeclaredDialect one) {
        if (byName.containsKey(one.name())) {
            LOG.warn("A dialect is left out: there are two called {}", one.name());
            return;
        }
        add(new KnownDialect(one.name(), one.title(), one.port(), one.tls()), one.dialect());
    }

    private void add(KnownDialect known, Dialect<DatabaseSettings> dialect) {
        byName.put(known.name(), new Reading(known, dialect, DatabaseConnections.kept(dialect), new CheckedTexts()));
    }

    List<KnownDialect> all() {
        return byName.values().stream().map(Reading::known).toList();
    }

    /** @throws Problem if no dialect of that name is known */
    KnownDialect get(String name) {
        return Optional.ofNullable(byName.get(name))
                .map(Reading::known)
                .orElseThrow(() -> Problem.invalid(unknown(name)));
    }

    private String unknown(String name) {
        return "No dialect is called " + name + "; there are " + String.join(", ", byName.keySet())
                + ". Dialects of other databases are declared in the folder that the configuration names.";
    }

    /** What it is called; its name where it is not known any more. */
    String title(String name) {
        return Optional.ofNullable(byName.get(name))
                .map(one -> one.known().title())
                .orElse(name);
    }

    /** A source stays when its dialect is taken out of the folder: it cannot be read, like one that does not answer. */
    private Reading reading(String name) {
        return Optional.ofNullable(byName.get(name))
                .orElseThrow(() -> new SourceProblem(SourceProblem.Kind.NOT_OFFERED, unknown(name)));
    }

    /**
     * @param guard asked about the address
     * @param readers told of every reading
     */
    RowSource open(DatabaseAddress address, String password, AddressGuard guard, Readers readers) {
        Reading reading = reading(address.dialectName());
        return new DatabaseSource<>(
                address.settings(password),
                new DatabaseSource.Tools<>(guard, reading.connections(), reading.checked(), readers));
    }

    /**
     * Looks at a query without asking the database.
     *
     * @throws remitto.connect.source.SourceProblem that says what is wrong and where
     */
    void check(DatabaseAddress address, SourceQuery query) {
        reading(address.dialectName()).dialect().spelling().of(query);
    }

    @PreDestroy
    void close() {
        List<Reading> all = new ArrayList<>(byName.values());
        all.forEach(one -> one.connections().close());
    }
}
