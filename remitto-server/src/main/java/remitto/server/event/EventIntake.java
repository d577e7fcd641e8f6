package remitto.server.event;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.SourceProblem;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.platform.CopyParts;
import remitto.server.platform.CopyText;
import remitto.server.platform.Rows;
import remitto.server.rights.mark.ErasedMarks;
import remitto.server.rights.mark.Marks;
import remitto.server.source.Sources;

/**
 * Reads events into tables of our own. After the first reading, only what is newer than some days before the newest event is
 * read, in place of what was kept of those days; so an event that came late or was taken back within them is right.
 */
@Component
public class EventIntake {
    private static final Duration TIME = Duration.ofMinutes(60);

    private final EventSets sets;
    private final Datasets datasets;
    private final Sources sources;
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final ErasedMarks erased;

    EventIntake(
            EventSets sets,
            Datasets datasets,
            Sources sources,
            JdbcClient jdbc,
            JdbcTemplate template,
            TransactionTemplate transactions,
            ErasedMarks erased) {
        this.sets = sets;
        this.datasets = datasets;
        this.sources = sources;
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
        this.erased = erased;
    }

    /**
     * Reads a set; what goes wrong is written down with it, and what was read before stays.
     *
     * @param all whether everything is read again, however old
     * @return whether it went well
     */
    public boolean read(long id, boolean all) {
        EventSets.EventSet set = sets.get(id);
        try {
            transactions.executeWithoutResult(status -> sets.readWas(id, read(set, all)));
            return true;
        } catch (SourceProblem | DataAccessException problem) {
            sets.failed(id, problem.getMessage() + " What was read before stays.");
            return false;
        }
    }

    private EventSets.ReadCounts read(EventSets.EventSet set, boolean all) {
        Optional<Instant> from =
                all ? Optional.empty() : set.newestAt().map(newest -> newest.minus(set.overlapDays(), ChronoUnit.DAYS));
        template.execute("set local work_mem = '128MB'");
        template.execute("set local maintenance_work_mem = '256MB'");
        template.execute("create temp table event_in (key text, at timestamptz" + declared(set) + ") on commit drop");
        long[] lost = copy(set, from);
        template.execute("analyze event_in");
        jdbc.sql("""
                        insert into audience.record (dataset_id, key)
                        select ?, key from (select distinct key from event_in) as keys on conflict do nothing
                        """).param(set.personDatasetId()).update();
        whose(set.personDatasetId());
        String columns = set.columns().stream()
                .map(column -> ", " + EventSets.quoted(column.name()))
                .collect(Collectors.joining());
        if (from.isPresent()) {
            jdbc.sql("with old as (delete from " + set.table() + " where at >= ? returning record_no) insert into"
                            + " audience.touched select distinct ?::bigint, record_no from old")
                    .params(Rows.time(from.get()), set.id())
                    .update();
            jdbc.sql("insert into audience.touched select distinct ?::bigint, r.record_no from event_in e"
                            + " join audience.record r on r.dataset_id = ? and r.key = e.key")
                    .params(set.id(), set.personDatasetId())
                    .update();
        } else {
            template.execute("truncate " + set.table());
            sets.dropIndexes(set);
            jdbc.sql("insert into audience.touched values (?, null)")
                    .param(set.id())
                    .update();
        }
        jdbc.sql("insert into " + set.table() + " (record_no, at" + columns + ") select r.record_no, e.at"
                        + set.columns().stream()
                                .map(column -> ", e." + EventSets.quoted(column.name()))
                                .collect(Collectors.joining())
                        + " from event_in e join audience.record r on r.dataset_id = ? and r.key = e.key order by e.at")
                .param(set.personDatasetId())
                .update();
        if (from.isEmpty()) {
            sets.makeIndexes(set);
        }
        template.execute("drop table event_in");
        template.execute("analyze " + set.table());
        return counts(set, lost);
    }

    private static String declared(EventSets.EventSet set) {
        return set.columns().stream()
                .map(column -> ", " + EventSets.quoted(column.name()) + " " + EventSets.sqlType(column.type()))
                .collect(Collectors.joining());
    }

    /** @return rows without a key, and rows without a time */
    private long[] copy(EventSets.EventSet set, Optional<Instant> from) {
        Datasets.Dataset dataset = datasets.get(set.datasetId());
        DatasetDefinition definition =
                datasets.version(dataset.id(), dataset.liveVersion().orElse(dataset.latestVersion()));
        List<String> wanted = new ArrayList<>(List.of(set.personColumn(), set.timeColumn()));
        set.columns().forEach(column -> wanted.add(column.name()));
        RowFilter fresh = from.<RowFilter>map(at -> new RowFilter.SinceOrWithout(set.timeColumn(), at))
                .orElse(RowFilter.ALL);
        Reading reading = definition.reading(wanted, TIME).only(fresh);
        long[] lost = new long[2];
        CopyParts parts = new CopyParts(template, "event_in");
        Marks marks = erased.now();
        sources.rows(dataset.sourceId()).read(reading, cells -> {
            if (blank(cells[0])) {
                lost[0]++;
            } else if (blank(cells[1])) {
                lost[1]++;
            } else if (marks.ofRecord(set.personDatasetId(), String.valueOf(cells[0]))
                    .isEmpty()) {
                CopyText row = parts.row();
                for (String cell : cells) {
                    if (blank(cell)) {
                        row.none();
                    } else {
                        row.text(cell);
                    }
                }
                row.endRow();
            }
            return true;
        });
        parts.end();
        return lost;
    }

    private static boolean blank(@Nullable String cell) {
        return cell == null || cell.isBlank();
    }

    private EventSets.ReadCounts counts(EventSets.EventSet set, long[] lost) {
        return jdbc.sql("select count(*) as rows, max(at) as newest, count(*) filter (where r.person_id is null) as"
                        + " unlinked from " + set.table() + " e join audience.record r on r.record_no = e.record_no")
                .query((row, number) -> new EventSets.ReadCounts(
                        row.getLong("rows"),
                        lost[0],
                        lost[1],
                        row.getLong("unlinked"),
                        Rows.optionalTime(row, "newest")))
                .single();
    }

    /** Says again whose the records are that events are of. */
    public void whose() {
        transactions.executeWithoutResult(status -> {
            jdbc.sql("select distinct dataset_id from audience.record")
                    .query(Long.class)
                    .list()
                    .forEach(this::whose);
            sets.all().forEach(set -> jdbc.sql("update event_set set unlinked = (select count(*) from " + set.table()
                            + " e join audience.record r on r.record_no = e.record_no where r.person_id is null)"
                            + " where id = ?")
                    .param(set.id())
                    .update());
        });
    }

    private void whose(long dataset) {
        int changed = jdbc.sql("""
                        update audience.record r set person_id = i.person_id
                        from identity_record i
                        where r.dataset_id = :dataset and i.dataset_id = :dataset and i.key = r.key
                          and r.person_id is distinct from i.person_id
                        """).param("dataset", dataset).update();
        changed += jdbc.sql("""
                        update audience.record r set person_id = null
                        where r.dataset_id = :dataset and r.person_id is not null and not exists (
                          select from identity_record i where i.dataset_id = :dataset and i.key = r.key)
                        """).param("dataset", dataset).update();
        if (changed > 0) {
            // Whoever had the record before is to be worked out again as well, and is not known here any more.
            jdbc.sql("insert into audience.touched select id, null from event_set where person_dataset = ?")
                    .param(dataset)
                    .update();
        }
    }
}
