package remitto.server.retention;

import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.journal.Journal;
import remitto.server.platform.ActorName;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** How long each kind of data is kept. */
@Component
class Retention {
    private static final int LEAST_DAYS = 7;
    private static final int MOST_DAYS = 36_500;

    private final JdbcClient jdbc;
    private final Journal journal;
    private final Clock clock;

    Retention(JdbcClient jdbc, Journal journal, Clock clock) {
        this.jdbc = jdbc;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * How long a kind is kept.
     *
     * @param days absent while it is kept for good
     * @param changedBy who set it last; absent while nobody did
     */
    record RetentionSetting(
            RetentionKind kind,
            String title,
            String words,
            Optional<Integer> days,
            @ActorName Optional<String> changedBy,
            Optional<Instant> changedAt) {}

    private record Set(int days, String by, Instant at) {}

    List<RetentionSetting> all() {
        Map<String, Set> set = new HashMap<>();
        jdbc.sql("select * from retention").query(row -> {
            set.put(
                    row.getString("kind"),
                    new Set(row.getInt("days"), row.getString("changed_by"), Rows.time(row, "changed_at")));
        });
        return Arrays.stream(RetentionKind.values())
                .map(kind -> {
                    Optional<Set> one = Optional.ofNullable(set.get(kind.name()));
                    return new RetentionSetting(
                            kind, kind.title(), kind.words(), one.map(Set::days), one.map(Set::by), one.map(Set::at));
                })
                .toList();
    }

    /** @return empty while the kind is kept for good */
    Optional<Integer> days(RetentionKind kind) {
        return jdbc.sql("select days from retention where kind = ?")
                .param(kind.name())
                .query(Integer.class)
                .optional();
    }

    /** @param days absent to keep it for good */
    @Transactional
    void set(RetentionKind kind, Optional<Integer> days, String who) {
        if (days.filter(wanted -> wanted < LEAST_DAYS || wanted > MOST_DAYS).isPresent()) {
            throw Problem.invalid("Data is kept for " + LEAST_DAYS + " to " + MOST_DAYS + " days, or for good.");
        }
        jdbc.sql("delete from retention where kind = ?").param(kind.name()).update();
        days.ifPresent(
                wanted -> jdbc.sql("insert into retention (kind, days, changed_by, changed_at) values (?, ?, ?, ?)")
                        .params(kind.name(), wanted, who, Rows.time(clock.instant()))
                        .update());
        journal.write(
                who,
                "changed retention",
                new Journal.Subject("retention", 0, kind.title()),
                days.map(wanted -> wanted + " days").orElse("for good"));
    }
}
