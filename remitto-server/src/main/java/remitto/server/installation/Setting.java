package remitto.server.installation;

import java.util.List;

/**
 * A setting of the configuration file.
 *
 * @param key as it stands in the file, its parts separated by dots
 * @param property of the server that it sets; blank for what only the launcher reads
 * @param usual its default as YAML
 * @param words what it is for, one line each
 */
record Setting(String key, String property, Kind kind, String usual, List<String> words) {

    /** What a value may be. */
    enum Kind {
        TEXT("a text"),
        PORT("a whole number from 1 to 65535"),
        MEGABYTES("a whole number of megabytes, at least 512"),
        COUNT("a whole number, at least 1"),
        PATH("a path such as /remitto, or blank"),
        FLAG("true or false"),
        LIST("a list of texts"),
        /** A path, from the folder of the configuration file on. */
        FILE("the path of a file or folder"),
        /** A file whose first line is the value, so that no secret stands in the configuration. */
        SECRET("the path of a file that holds the password"),
        /** The same, or blank where there is none. */
        SECRET_OR_NONE("the path of a file that holds it, or blank"),
        /** As Spring Boot reads durations. */
        DURATION("a length of time such as 12h or 30m");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }

    /** Every setting there is, in the order of the file. */
    static List<Setting> all() {
        return List.of(
                of(
                        "listen.address",
                        "server.address",
                        Kind.TEXT,
                        "127.0.0.1",
                        "Where the server listens. Leave it on loopback and put a TLS proxy before it."),
                of("listen.port", "server.port", Kind.PORT, "8640", "The port it listens on."),
                of(
                        "public_address",
                        "remitto.public-address",
                        Kind.TEXT,
                        "\"\"",
                        "The address that people reach it at, where a proxy stands before it, such as https://remitto.company.example."),
                of(
                        "base_path",
                        "server.servlet.context-path",
                        Kind.PATH,
                        "\"\"",
                        "The path below which a proxy puts it, such as /remitto; blank for the root."),
                of(
                        "behind_proxy",
                        "server.forward-headers-strategy",
                        Kind.FLAG,
                        "false",
                        "Whether a proxy stands before it whose X-Forwarded headers are true: who asks, and that they came by TLS."),
                of(
                        "database.url",
                        "spring.datasource.url",
                        Kind.TEXT,
                        "jdbc:postgresql://127.0.0.1:5432/remitto",
                        "PostgreSQL 15 or later, by its JDBC address. Beyond this machine the connection is encrypted unless sslmode says otherwise."),
                of(
                        "database.user",
                        "spring.datasource.username",
                        Kind.TEXT,
                        "remitto",
                        "The role that owns Remitto's database."),
                of(
                        "database.password_file",
                        "spring.datasource.password",
                        Kind.SECRET,
                        "database.password",
                        "Its password, in a file of its own."),
                of(
                        "database.people_user",
                        "remitto.people-reader.user",
                        Kind.TEXT,
                        "remitto_people",
                        "The role that datasets over people are read by; it may only read."),
                of(
                        "database.people_password_file",
                        "remitto.people-reader.password",
                        Kind.SECRET,
                        "people.password",
                        "Its password, in a file of its own."),
                of(
                        "secret_key_file",
                        "remitto.secret-key-file",
                        Kind.FILE,
                        "secret.key",
                        "The key that credentials are encrypted with; made when it is not there. Back it up apart from the database."),
                of(
                        "first_link_file",
                        "remitto.first-link-file",
                        Kind.FILE,
                        "first-administrator.link",
                        "Where the link for the first administrator is written while nobody can sign in."),
                of(
                        "outbox",
                        "remitto.outbox",
                        Kind.FILE,
                        "outbox",
                        "The folder below which destinations on this machine get their files."),
                of(
                        "inbox",
                        "remitto.inbox",
                        Kind.FILE,
                        "inbox",
                        "The folder below which sources on this machine have their files; whoever leaves files there needs to write to it."),
                of(
                        "uploads",
                        "remitto.uploads",
                        Kind.FILE,
                        "uploads",
                        "Where files are kept that people upload in the browser."),
                of(
                        "dialects_folder",
                        "remitto.dialects-folder",
                        Kind.FILE,
                        "dialects",
                        "Where dialects of further databases are declared, with their drivers beside them; whoever can write there decides what code the server runs."),
                of(
                        "outgoing_allowed",
                        "remitto.outgoing-allowed",
                        Kind.LIST,
                        "[]",
                        "Private or loopback hosts that destinations may be called at. Public ones need not be listed."),
                of(
                        "let_in_origins",
                        "remitto.let-in-origins",
                        Kind.LIST,
                        "[]",
                        "Origins that data may go to without an administrator allowing them one by one, such as https://crm.company.example:443."),
                of(
                        "departures",
                        "remitto.departures",
                        Kind.FLAG,
                        "true",
                        "Whether routes depart by their timetable. false: only by hand."),
                of(
                        "stand_ins",
                        "remitto.stand-ins",
                        Kind.FLAG,
                        "false",
                        "Whether the profiles of the demo's stand-ins are there too."),
                of(
                        "session.idle",
                        "server.servlet.session.timeout",
                        Kind.DURATION,
                        "12h",
                        "How long a session lasts without being used."),
                of(
                        "open_id.issuer",
                        "remitto.open-id.issuer",
                        Kind.TEXT,
                        "\"\"",
                        "The sign-in server of the company (OpenID Connect), such as https://login.company.example; blank for none."),
                of(
                        "open_id.client_id",
                        "remitto.open-id.client-id",
                        Kind.TEXT,
                        "\"\"",
                        "What the sign-in server knows this installation by. It comes back to /api/session/open-id/back."),
                of(
                        "open_id.client_secret_file",
                        "remitto.open-id.client-secret",
                        Kind.SECRET_OR_NONE,
                        "\"\"",
                        "The secret of this installation there, in a file of its own; blank for a public client."),
                of(
                        "open_id.name",
                        "remitto.open-id.name",
                        Kind.TEXT,
                        "company account",
                        "What people call it: the button says Sign in with …"),
                of(
                        "open_id.role_claim",
                        "remitto.open-id.role-claim",
                        Kind.TEXT,
                        "roles",
                        "Which claim of the ID token tells the role; it may hold several values."),
                of(
                        "open_id.roles",
                        "remitto.open-id.roles",
                        Kind.LIST,
                        "[]",
                        "What its values stand for, such as [remitto-editors=EDITOR, remitto-admins=ADMIN]. Whoever has none is not let in."),
                of(
                        "open_id.local_accounts",
                        "remitto.open-id.local-accounts",
                        Kind.FLAG,
                        "true",
                        "Whether passwords that are kept here let in too."),
                of(
                        "lineage.url",
                        "remitto.lineage.url",
                        Kind.TEXT,
                        "\"\"",
                        "Where lineage is told: an address that takes events of the OpenLineage standard by POST; blank for nowhere."),
                of(
                        "lineage.key_file",
                        "remitto.lineage.key",
                        Kind.SECRET_OR_NONE,
                        "\"\"",
                        "What lets in there, in a file of its own; blank for nothing."),
                of(
                        "lineage.namespace",
                        "remitto.lineage.namespace",
                        Kind.TEXT,
                        "remitto",
                        "The namespace that the jobs of this installation are in, so that two are told apart."),
                of(
                        "traces.url",
                        "remitto.traces.url",
                        Kind.TEXT,
                        "\"\"",
                        "Where traces are told: an address that takes OpenTelemetry's OTLP by HTTP, such as http://127.0.0.1:4318/v1/traces; blank for nowhere."),
                of(
                        "traces.percent",
                        "remitto.traces.percent",
                        Kind.COUNT,
                        "100",
                        "How many of a hundred requests and runs are traced, where nobody decided before they came here."),
                of(
                        "token.calls_per_minute",
                        "remitto.token-calls-per-minute",
                        Kind.COUNT,
                        "600",
                        "How often a minute each token of a service account may call."),
                of(
                        "log.json",
                        "logging.structured.format.console",
                        Kind.FLAG,
                        "false",
                        "Whether each line of the log is a JSON object, with the ids of the request, run and route it belongs to."),
                of(
                        "memory_mb",
                        "",
                        Kind.MEGABYTES,
                        "1024",
                        "Memory of the server process. It is started again when it runs out."));
    }

    private static Setting of(String key, String property, Kind kind, String usual, String words) {
        return new Setting(key, property, kind, usual, List.of(words));
    }
}
