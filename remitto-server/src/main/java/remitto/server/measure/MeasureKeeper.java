package remitto.server.measure;

import java.time.Clock;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.audience.AudienceFault;
import remitto.core.audience.Derivation;
import remitto.core.audience.Measure;
import remitto.core.audience.Window;
import remitto.core.audience.sql.AudienceSql;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.expression.CompiledExpression;
import remitto.core.shaper.Shaped;
import remitto.server.event.EventSets;
import remitto.server.people.EntityType;
import remitto.server.platform.CopyParts;
import remitto.server.platform.LargeQueries;
import remitto.server.platform.Rows;

/**
 * Works measures out and keeps them. Where only some events changed since the last time, only the people they are of are
 * worked out again, with those whose events left the window; only values that differ are written.
 */
@Component
public class MeasureKeeper {
    private static final Logger LOG = LoggerFactory.getLogger(MeasureKeeper.class);
    private static final int FETCH = 5_000;

    private final Measures measures;
    private final Population population;
    private final EventSets events;
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final LargeQueries large;
    private final Clock clock;

    MeasureKeeper(
            Measures measures,
            Population population,
            EventSets events,
            JdbcClient jdbc,
            JdbcTemplate template,
            LargeQueries large,
            Clock clock) {
        this.measures = measures;
        this.population = population;
        this.events = events;
        this.jdbc = jdbc;
        this.template = template;
        this.large = large;
        this.clock = clock;
    }

    /** Works all out, in their order. What fails is written down with the measure, which keeps its values. */
    public void refreshAll() {
        long seen = jdbc.sql("select count(*) from audience.touched")
                .query(Long.class)
                .single();
        measures.all().forEach(measure -> refresh(measure, false));
        if (seen > 0) {
            template.execute("truncate audience.touched");
        }
    }

    /** @param whole whether everybody is worked out again */
    void refresh(Measures.PersonMeasure measure, boolean whole) {
        Instant now = clock.instant();
        long start = System.nanoTime();
        try {
            large.ask(() -> {
                write(measure, now, whole);
                return true;
            });
            long people = jdbc.sql("select count(*) from " + measure.table() + " where value is not null")
                    .query(Long.class)
                    .single();
            measures.refreshed(measure.id(), people, now, TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - start));
        } catch (AudienceFault fault) {
            measures.failed(measure.id(), fault.getMessage());
        } catch (DateTimeException e) {
            measures.failed(measure.id(), "It could not be worked out: " + e.getMessage());
        } catch (DataAccessException e) {
            LOG.error("Measure {} could not be worked out", measure.name(), e);
            measures.failed(
                    measure.id(),
                    "It could not be worked out: " + e.getMostSpecificCause().getMessage());
        }
    }

    private void write(Measures.PersonMeasure measure, Instant now, boolean whole) {
        template.execute("create temp table fresh (like " + measure.table() + " including all) on commit drop");
        Optional<String> some = Optional.empty();
        if (measure.derivation() instanceof Derivation.ByExpression computed) {
            compute(measure, computed);
        } else {
            AudienceSql sql = sql(measure, now);
            some = whole ? Optional.empty() : changed(measure, now);
            String query = measure.derivation() instanceof Derivation.OverEvents over
                    ? some.map(people -> sql.measure(over.measure(), people))
                            .orElseGet(() -> sql.measure(over.measure()))
                    : sql.score((Derivation.Score) measure.derivation());
            template.execute("insert into fresh select person_id, value from (" + query + ") as worked_out");
        }
        template.execute("analyze fresh");
        template.execute("delete from " + measure.table() + " t where not exists (select from fresh f where"
                + " f.person_id = t.person_id)"
                + some.map(people -> " and t.person_id in (" + people + ")").orElse(""));
        template.execute("insert into " + measure.table() + " as t select * from fresh f where not exists (select from "
                + measure.table() + " o where o.person_id = f.person_id and o.value is not distinct from f.value)"
                + " on conflict (person_id) do update set value = excluded.value");
        template.execute("drop table fresh");
        template.execute("analyze " + measure.table());
    }

    private AudienceSql sql(Measures.PersonMeasure measure, Instant now) {
        ZoneId zone =
                measure.derivation() instanceof Derivation.OverEvents over ? ZoneId.of(over.zone()) : ZoneId.of("UTC");
        return new AudienceSql(
                population.words(measure.entityType(), measure.id()),
                population.storage(measure.entityType()),
                new Window.Now(now, zone));
    }

    /** A query of the people whose value can be another one; absent when that is anybody. */
    private Optional<String> changed(Measures.PersonMeasure measure, Instant now) {
        if (!(measure.derivation() instanceof Derivation.OverEvents over)
                || measure.refreshedAt().isEmpty()
                || over.measure().aggregation() instanceof Measure.Aggregation.DaysSince) {
            return Optional.empty();
        }
        EventSets.EventSet set = events.all().stream()
                .filter(one -> one.name().equals(over.measure().of().events()))
                .findFirst()
                .orElseThrow(() -> new AudienceFault(
                        "No events have the name \"" + over.measure().of().events() + "\"."));
        boolean all = jdbc.sql("select exists (select from audience.touched where set_id = ? and record_no is null)")
                .param(set.id())
                .query(Boolean.class)
                .single();
        if (all) {
            return Optional.empty();
        }
        List<String> people = new ArrayList<>();
        people.add("select r.person_id from audience.touched t join audience.record r on r.record_no = t.record_no"
                + " where t.set_id = " + set.id() + " and r.person_id is not null");
        if (over.measure().window().moves()) {
            ZoneId zone = ZoneId.of(over.zone());
            Window.Interval before = over.measure()
                    .window()
                    .at(new Window.Now(measure.refreshedAt().get(), zone));
            Window.Interval after = over.measure().window().at(new Window.Now(now, zone));
            people.add(between(set, before.from(), after.from()));
            people.add(between(set, before.until(), after.until()));
        }
        return Optional.of(String.join(" union ", people));
    }

    /** People with events between where a window's end was and where it is now. */
    private static String between(EventSets.EventSet set, Optional<Instant> was, Optional<Instant> is) {
        Instant one = was.orElse(Instant.EPOCH);
        Instant other = is.orElse(Instant.EPOCH);
        Instant from = one.isBefore(other) ? one : other;
        Instant until = one.isBefore(other) ? other : one;
        return "select r.person_id from " + set.table() + " e join audience.record r on r.record_no = e.record_no"
                + " where r.person_id is not null and e.at >= '" + Rows.timeText(from) + "' and e.at < '"
                + Rows.timeText(until) + "'";
    }

    private void compute(Measures.PersonMeasure measure, Derivation.ByExpression computed) {
        Columns columns = columns(measure.entityType(), measure.id());
        CompiledExpression expression = compiled(computed.expression(), columns);
        List<String> used = List.copyOf(expression.columns());
        Columns read = new Columns(columns.list().stream()
                .filter(column -> used.contains(column.name()) || column.role() == ColumnRole.KEY)
                .toList());
        String select = "select person_id"
                + read.list().stream()
                        .filter(column -> column.role() != ColumnRole.KEY)
                        .map(column -> ", " + Population.quoted(column.name()) + "::text")
                        .reduce("", String::concat)
                + " from " + Population.view(measure.entityType());
        List<Object[]> values = new ArrayList<>();
        template.query(
                connection -> {
                    var statement = connection.prepareStatement(select);
                    statement.setFetchSize(FETCH);
                    return statement;
                },
                row -> {
                    String[] cells = new String[read.list().size()];
                    for (int i = 0; i < cells.length; i++) {
                        cells[i] = row.getString(i + 1);
                    }
                    if (expression.evaluate(Row.of(read, cells)) instanceof Shaped.Usable usable
                            && !usable.value().isEmpty()) {
                        values.add(new Object[] {row.getLong(1), usable.value().display()});
                    }
                });
        CopyParts parts = new CopyParts(template, "fresh");
        values.forEach(
                one -> parts.row().number((long) one[0]).text((String) one[1]).endRow());
        parts.end();
    }

    static CompiledExpression compiled(String text, Columns columns) {
        CompiledExpression.Compilation compilation = CompiledExpression.compile(text, columns);
        if (compilation instanceof CompiledExpression.Compilation.Done compiled) {
            return compiled.expression();
        }
        CompiledExpression.Fault fault =
                ((CompiledExpression.Compilation.Faulty) compilation).faults().get(0);
        throw new AudienceFault("The expression has an error at line " + fault.line() + ", column "
                + (fault.column() + 1) + ": " + fault.message());
    }

    /** What an expression may speak of, the person's id as the key. */
    Columns columns(EntityType entityType, long before) {
        List<Column> columns = new ArrayList<>();
        columns.add(new Column("person_id", ColumnType.INTEGER, ColumnRole.KEY));
        population
                .words(entityType, before)
                .attributes()
                .forEach((name, type) -> columns.add(new Column(name, type, ColumnRole.ATTRIBUTE)));
        return new Columns(columns);
    }
}
