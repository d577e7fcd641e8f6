package remitto.server.measure;

import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.dataset.ColumnType;

/** Measures: what they are, how their values are spread, and working them out again. */
@RestController
@RequestMapping("/api/measures")
class MeasureController {
    private static final int BARS = 12;

    private final Measures measures;
    private final MeasureKeeper keeper;
    private final Population population;
    private final JdbcClient jdbc;
    private final MeasureKeeping keeping;

    MeasureController(
            Measures measures, MeasureKeeper keeper, Population population, JdbcClient jdbc, MeasureKeeping keeping) {
        this.measures = measures;
        this.keeper = keeper;
        this.population = population;
        this.jdbc = jdbc;
        this.keeping = keeping;
    }

    /** People with a value from {@code from} up to {@code to}, or of one text. */
    record Bar(String from, String to, long people) {}

    /**
     * How the values of a measure are spread.
     *
     * @param without people who have no value
     */
    record Distribution(ColumnType type, List<Bar> bars, long with, long without, String middle) {}

    /** All measures with their latest computation. */
    @GetMapping
    List<Measures.PersonMeasure> personMeasures() {
        return measures.all();
    }

    /** Adds a measure and computes it for everyone in the background. */
    @PostMapping
    Measures.PersonMeasure addMeasure(@RequestBody Measures.MeasureRequest request, Principal who) {
        return computed(keeping.add(request, who.getName()));
    }

    /** The name stays: audiences and routes speak of it. */
    @PutMapping("/{id}")
    Measures.PersonMeasure changeMeasure(
            @PathVariable long id, @RequestBody Measures.MeasureRequest request, Principal who) {
        keeping.change(id, request, who.getName());
        return computed(id);
    }

    private Measures.PersonMeasure computed(long id) {
        keeper.refresh(measures.get(id), true);
        return measures.get(id);
    }

    /** Computes a measure again in the background. */
    @PostMapping("/{id}/refreshes")
    Measures.PersonMeasure refreshMeasure(@PathVariable long id) {
        keeper.refresh(measures.get(id), true);
        return measures.get(id);
    }

    /** Removes a measure that no audience, route or other measure uses. */
    @DeleteMapping("/{id}")
    List<Measures.PersonMeasure> removeMeasure(@PathVariable long id, Principal who) {
        keeping.remove(id, who.getName());
        return measures.all();
    }

    /** How the values are spread over people. */
    @GetMapping("/{id}/distribution")
    Distribution distribution(@PathVariable long id) {
        Measures.PersonMeasure measure = measures.get(id);
        ColumnType type = population.words(measure.entityType()).attribute(measure.name());
        String people = Population.view(measure.entityType());
        String column = Population.quoted(measure.name());
        long[] counts = jdbc.sql("select count(*) filter (where " + column
                        + " is not null) as with, count(*) as all from " + people)
                .query((row, number) -> new long[] {row.getLong("with"), row.getLong("all")})
                .single();
        return new Distribution(
                type,
                type == ColumnType.INTEGER || type == ColumnType.DECIMAL
                        ? numbers(people, column)
                        : texts(people, measure),
                counts[0],
                counts[1] - counts[0],
                jdbc.sql("select coalesce((percentile_disc(0.5) within group (order by " + column
                                + "))::text, '') from " + people)
                        .query(String.class)
                        .single());
    }

    private List<Bar> texts(String people, Measures.PersonMeasure measure) {
        List<Bar> bars = new ArrayList<>();
        population
                .values(people, measure.name(), BARS)
                .forEach((value, count) -> bars.add(new Bar(value, value, count)));
        return bars;
    }

    /** Up to a dozen values stand for themselves; more are put in bars of one width, the last open for the largest. */
    private List<Bar> numbers(String people, String column) {
        return jdbc.sql("""
                        with v as (select %s::numeric as value from %s where %s is not null),
                        e as (select min(value) as least, percentile_disc(0.98) within group (order by value) as most,
                          max(value) as largest, count(distinct value) as values from v),
                        w as (select *, greatest(ceil((most - least + 1) / %d), 1) as width from e),
                        b as (select case when w.values <= %d then v.value
                            else w.least + least(floor((v.value - w.least) / w.width), %d - 1) * w.width end as low,
                          w.values, w.width, w.least, w.largest from v cross join w)
                        select low::text as low,
                          (case when values <= %d then low when low = least + (%d - 1) * width then largest
                            else low + width - 1 end)::text as high, count(*) as people
                        from b group by low, values, width, least, largest order by b.low
                        """.formatted(column, people, column, BARS, BARS, BARS, BARS, BARS))
                .query((row, number) -> new Bar(row.getString("low"), row.getString("high"), row.getLong("people")))
                .list();
    }
}
