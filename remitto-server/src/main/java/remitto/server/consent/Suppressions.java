package remitto.server.consent;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.consent.AddressHash;
import remitto.core.dataset.Row;
import remitto.server.people.person.PersonFacts;
import remitto.server.planning.SuppressedAddresses;
import remitto.server.platform.ActorName;
import remitto.server.platform.Personal;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import remitto.server.route.RowAddresses;

/** Addresses that nothing is sent to. Only hashes are kept, so the list itself tells nobody's address. */
@Component
class Suppressions implements SuppressedAddresses {
    private static final int EXAMPLES = 50;
    private static final Pattern ADDRESS_KEY = Pattern.compile("^(\\d{1,18})@[0-9a-f]{16}$");

    /** Answers that were read this lately need no second look. */
    private static final Duration FRESH = Duration.ofMinutes(1);

    private final JdbcClient jdbc;
    private final PersonFacts facts;
    private final Clock clock;

    Suppressions(JdbcClient jdbc, PersonFacts facts, Clock clock) {
        this.jdbc = jdbc;
        this.facts = facts;
        this.clock = clock;
    }

    /**
     * An address on the suppression list, as a hash.
     *
     * @param people who have such an address
     */
    record SuppressionEntry(
            String hash, String reason, @ActorName String addedBy, Instant addedAt, long people) {}

    /**
     * How many addresses were added, and which could not be read.
     *
     * @param added addresses that were not on the list
     * @param known that were
     * @param unreadable texts that are no addresses
     */
    record SuppressionsAdded(
            int added, int known, int ambiguous, @Personal List<String> unreadable) {}

    long size() {
        return jdbc.sql("select count(*) from suppression").query(Long.class).single();
    }

    /** The latest first. */
    List<SuppressionEntry> latest() {
        return jdbc.sql("""
                        select s.*, (select count(distinct a.person_id) from person_address a where a.hash = s.hash) as people
                        from suppression s order by s.added_at desc, s.hash limit
                        """ + EXAMPLES)
                .query((row, number) -> new SuppressionEntry(
                        row.getString("hash"),
                        row.getString("reason"),
                        row.getString("added_by"),
                        Rows.time(row, "added_at"),
                        row.getLong("people")))
                .list();
    }

    /**
     * @param addresses e-mail addresses, phone numbers or SHA-256 of normalised ones
     * @param country ISO 3166-1 alpha-2 of phone numbers that are spelled without theirs; blank where it is not known, and then every
     *     number that one may mean is blocked
     */
    SuppressionsAdded add(List<String> addresses, String country, String reason, String who) {
        int added = 0;
        int known = 0;
        int ambiguous = 0;
        List<String> unreadable = new ArrayList<>();
        for (String address : addresses) {
            Set<String> hashes = AddressHash.meanings(address, country);
            if (hashes.isEmpty()) {
                unreadable.add(address);
                continue;
            }
            ambiguous += hashes.size() > 1 ? 1 : 0;
            int now = 0;
            for (String hash : hashes) {
                now += jdbc.sql("""
                                insert into suppression (hash, reason, added_by, added_at) values (?, ?, ?, ?)
                                on conflict do nothing
                                """)
                        .params(hash, reason, who, Rows.time(clock.instant()))
                        .update();
            }
            added += now > 0 ? 1 : 0;
            known += now > 0 ? 0 : 1;
        }
        return new SuppressionsAdded(added, known, ambiguous, unreadable);
    }

    boolean remove(String hash) {
        return jdbc.sql("delete from suppression where hash = ?").param(hash).update() > 0;
    }

    @Override
    public boolean mayDiffer(BoundRoute route, Instant readAt) {
        return ofPeople(route) && readAt.isBefore(clock.instant().minus(FRESH))
                || jdbc.sql("select exists (select from suppression where added_at >= ?)")
                        .param(Rows.time(readAt))
                        .query(Boolean.class)
                        .single();
    }

    @Override
    public Sieve sieve(BoundRoute route) {
        long[] heads = jdbc.sql("select hash from suppression").query(String.class).list().stream()
                .mapToLong(Suppressions::head)
                .sorted()
                .toArray();
        if (heads.length == 0) {
            return Sieve.NOTHING;
        }
        RowAddresses addresses = new RowAddresses(route);
        Set<String> persons = ofPeople(route)
                ? new HashSet<>(jdbc.sql(
                                "select distinct a.person_id::text from person_address a join suppression s on s.hash = a.hash")
                        .query(String.class)
                        .list())
                : Set.of();
        return (key, row) -> persons.contains(person(key))
                || addresses.of(row).stream().anyMatch(hash -> Arrays.binarySearch(heads, head(hash)) >= 0);
    }

    /** The person that a row over people is of, also where it is one of the person's addresses. */
    private static String person(String key) {
        return ADDRESS_KEY.matcher(key).replaceFirst("$1");
    }

    private boolean ofPeople(BoundRoute route) {
        return facts.source().equals(Optional.of(route.sourceId()));
    }

    @Override
    public Map<String, String> reasons(BoundRoute route, Map<String, Row> rows) {
        if (!jdbc.sql("select exists (select from suppression)")
                .query(Boolean.class)
                .single()) {
            return Map.of();
        }
        RowAddresses addresses = new RowAddresses(route);
        Map<String, Set<String>> byKey = new HashMap<>();
        rows.forEach((key, row) -> byKey.put(key, addresses.of(row)));
        if (ofPeople(route)) {
            Map<String, Set<String>> ofPerson = new HashMap<>();
            jdbc.sql("select person_id::text as key, hash from person_address where person_id = any (?)")
                    .param(rows.keySet().stream()
                            .map(Suppressions::person)
                            .filter(id -> id.matches("\\d{1,18}"))
                            .distinct()
                            .map(Long::valueOf)
                            .toArray(Long[]::new))
                    .query(row -> {
                        ofPerson.computeIfAbsent(row.getString("key"), key -> new HashSet<>())
                                .add(row.getString("hash"));
                    });
            byKey.forEach((key, hashes) -> hashes.addAll(ofPerson.getOrDefault(person(key), Set.of())));
        }
        Set<String> all = new HashSet<>();
        byKey.values().forEach(all::addAll);
        Map<String, String> known = new HashMap<>();
        jdbc.sql("select hash, reason from suppression where hash = any (?)")
                .param(all.toArray(String[]::new))
                .query(row -> {
                    known.put(row.getString("hash"), row.getString("reason"));
                });
        Map<String, String> reasons = new HashMap<>();
        byKey.forEach((key, hashes) -> hashes.stream()
                .filter(known::containsKey)
                .findFirst()
                .ifPresent(hash -> reasons.put(key, "On the suppression list: " + known.get(hash))));
        return reasons;
    }

    /** The first 64 bits, by which a million hashes take eight megabytes. */
    private static long head(String hash) {
        return Long.parseUnsignedLong(hash.substring(0, 16), 16);
    }
}
