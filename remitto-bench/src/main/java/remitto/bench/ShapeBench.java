package remitto.bench;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import remitto.connect.warehouse.Warehouse;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.manifest.ShapedRecord;
import remitto.core.manifest.Trace;
import remitto.core.route.Basis;
import remitto.core.route.CompiledRoute;
import remitto.core.route.FirstRun;
import remitto.core.route.LookUps;
import remitto.core.route.Mode;
import remitto.core.route.RouteCompiler;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.Shaped;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.Trim;
import remitto.core.shaper.UpperCase;
import remitto.core.timetable.Schedule;

/**
 * Twelve rules over every row: eight columns with trim or case, two dates, an expression and a hash; then the same with
 * a phone number in place of a trim. Rows are read as in the comparing benchmark, a part at a time, and each part is
 * shaped on every core; the ratio is of the time for shaping alone to the time for reading.
 */
final class ShapeBench {
    private static final int PART = 5_000;
    private static final int TIMES = 3;
    private static final ColumnType[] TYPES = {
        ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT,
        ColumnType.TEXT, ColumnType.TEXT, ColumnType.INTEGER, ColumnType.DECIMAL, ColumnType.DATE, ColumnType.TIMESTAMP
    };

    private final int rows;

    ShapeBench(int rows) {
        this.rows = rows;
    }

    private record Times(double reading, double shaping) {}

    void run() throws Exception {
        try (Rig rig = new Rig(rows)) {
            CompiledRoute plain = route(false);
            CompiledRoute phone = route(true);
            List<Double> ratios = new ArrayList<>();
            List<Double> rates = new ArrayList<>();
            List<Double> phones = new ArrayList<>();
            for (int i = 0; i <= TIMES; i++) {
                Times times = time(rig, plain);
                Times withPhone = time(rig, phone);
                System.out.printf(
                        Locale.ROOT,
                        "%sread %.2f s, shaped %.2f s, with a phone %.2f s%n",
                        i == 0 ? "warm-up: " : "",
                        times.reading(),
                        times.shaping(),
                        withPhone.shaping());
                if (i > 0) {
                    ratios.add(times.shaping() / times.reading());
                    rates.add(rows / times.shaping());
                    phones.add(rows / withPhone.shaping());
                }
            }
            System.out.printf(
                    Locale.ROOT,
                    "shape ratio=%.2f records_per_s=%.0f phone_records_per_s=%.0f%n",
                    CompareBench.median(ratios),
                    CompareBench.median(rates),
                    CompareBench.median(phones));
        }
    }

    private Times time(Rig rig, CompiledRoute route) {
        double[] shaping = new double[1];
        List<@Nullable String[]> part = new ArrayList<>(PART);
        Columns columns = columns();
        long start = System.nanoTime();
        Warehouse warehouse = CompareBench.warehouse(rig);
        warehouse.read(Rig.SQL, Rig.COLUMNS, List.of(), Duration.ofHours(1), cells -> {
            part.add(cells.clone());
            if (part.size() == PART) {
                shaping[0] += shape(route, columns, part);
                part.clear();
            }
            return true;
        });
        shaping[0] += shape(route, columns, part);
        return new Times((System.nanoTime() - start) / 1e9 - shaping[0], shaping[0]);
    }

    private static double shape(CompiledRoute route, Columns columns, List<@Nullable String[]> part) {
        long start = System.nanoTime();
        long usable = IntStream.range(0, part.size())
                .parallel()
                .mapToLong(i -> {
                    @Nullable String[] cells = part.get(i);
                    ShapedRecord record =
                            route.shape(String.valueOf(cells[0]), Row.of(columns, cells), LookUps.NONE, Trace.NONE);
                    return record.fields().stream()
                            .filter(field -> field.shaped() instanceof Shaped.Usable)
                            .count();
                })
                .sum();
        if (usable != 12L * part.size()) {
            throw new IllegalStateException(usable + " usable values of " + 12L * part.size());
        }
        return (System.nanoTime() - start) / 1e9;
    }

    private static Columns columns() {
        List<Column> columns = new ArrayList<>();
        for (int i = 0; i < TYPES.length; i++) {
            columns.add(new Column(Rig.COLUMNS.get(i), TYPES[i], i == 0 ? ColumnRole.KEY : ColumnRole.ATTRIBUTE));
        }
        return new Columns(columns);
    }

    private static CompiledRoute route(boolean phone) {
        List<FieldRule> rules = List.of(
                from("ref", "id", new Trim()),
                from("given", "given", new Trim()),
                from("family", "family", new Trim(), new UpperCase()),
                from("mail", "email", new Trim(), new LowerCase()),
                phone ? from("mobile", "mobile", new E164("NO", "country")) : from("mobile", "mobile", new Trim()),
                from("country", "country", new UpperCase()),
                from("port", "port", new Trim()),
                from("status", "status", new LowerCase()),
                from("last", "last_trip", new ToDate("", "Europe/Oslo")),
                from("changed", "changed_at", new ToDate("", "Europe/Oslo")),
                FieldRule.of(
                        "tier",
                        new Receives.Computed("trips > 20 ? \"often\" : (score > 50.0 ? \"keen\" : \"seldom\")")),
                from("hash", "email", new Trim(), new LowerCase(), new Sha256()));
        List<Field> fields = rules.stream()
                .map(rule -> field(
                        rule.field(),
                        rule.field().equals("last") || rule.field().equals("changed")
                                ? FieldKind.DATE
                                : FieldKind.TEXT))
                .toList();
        RouteSpec spec = RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("ref"),
                        rules,
                        new Basis.NotStated(),
                        Guards.defaults(),
                        new Schedule.ByHand("UTC"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
        var compiled = RouteCompiler.compile(
                spec, columns(), new ObjectDescription("thing", "Thing", false, Abilities.all(), fields));
        if (!compiled.usable()) {
            throw new IllegalStateException(compiled.faults().toString());
        }
        return compiled.route();
    }

    private static Field field(String name, FieldKind kind) {
        return new Field(
                name, name, kind, false, name.equals("ref"), false, true, false, OptionalInt.empty(), List.of());
    }

    private static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }
}
