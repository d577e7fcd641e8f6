package remitto.bench;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.CompiledRoute;
import remitto.core.route.FirstRun;
import remitto.core.route.LookUps;
import remitto.core.route.Mode;
import remitto.core.route.RouteCompiler;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedRecord;
import remitto.core.route.Surroundings;
import remitto.core.route.Trace;
import remitto.core.shaper.CrosswalkTable;
import remitto.core.shaper.Crosswalked;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.Shaped;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.Stores;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.Trim;
import remitto.core.shaper.UpperCase;
import remitto.core.timetable.Schedule;
import remitto.core.value.Value;
import remitto.server.dataset.DatasetLookUps;
import remitto.standins.purser.Purser;

/**
 * Fourteen rules over every row: eight columns with trim or case, one of them by a crosswalk, a phone number, two dates, an
 * expression, a hash, and a value that is looked up in another dataset by the row's own key. Rows are read as in the comparing
 * benchmark, a part at a time; what a part looks up is read for all of it, and it is shaped on every core. The ratio is of the time
 * for looking up and shaping to the time for reading; beside it stands what looking up takes of it.
 */
final class ShapeBench {
    private static final int PART = 5_000;
    /** As many values as the product looks up with one query. */
    private static final int LOOKED_UP_AT_ONCE = 500;

    private static final int WARM_UPS = 1;
    private static final long CROSSWALK = 1;
    private static final int WORDS = 200;
    private static final ColumnType[] TYPES = {
        ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT, ColumnType.TEXT,
        ColumnType.TEXT, ColumnType.TEXT, ColumnType.INTEGER, ColumnType.DECIMAL, ColumnType.DATE, ColumnType.TIMESTAMP
    };

    private final int rows;

    ShapeBench(int rows) {
        this.rows = rows;
    }

    private record Times(double reading, double lookingUp, double shaping) {
        double ours() {
            return lookingUp + shaping;
        }
    }

    void run() throws Exception {
        try (Rig rig = new Rig(rows);
                Purser purser = Purser.start(0, rig.folder.resolve("purser.jsonl"))) {
            rig.setUp("http://127.0.0.1:" + purser.port());
            rig.inWarehouse(
                    "create table public.accounts as select id, 'level ' || abs(hashtext(id)) % 5 as level from public.people",
                    "alter table public.accounts add primary key (id)", "vacuum analyze public.accounts");
            long accounts = rig.dataset("Accounts", "select id, level from public.accounts", "id");
            CompiledRoute route = route(accounts);
            Cpu cpu = Cpu.of(rig.databases);
            List<Double> ratios = new ArrayList<>();
            List<Double> rates = new ArrayList<>();
            List<Double> lookingUp = new ArrayList<>();
            for (int i = 0; i < WARM_UPS + Pairs.FEWEST; i++) {
                boolean counts = i >= WARM_UPS;
                cpu.begin();
                Times times = time(rig, route);
                if (counts) {
                    cpu.end();
                    ratios.add(times.ours() / times.reading());
                    rates.add(rows / times.ours());
                    lookingUp.add(times.lookingUp() / times.ours());
                }
                System.out.printf(
                        Locale.ROOT,
                        "%sread %.2f s, looked up %.2f s, shaped %.2f s%n",
                        counts ? "" : "warm-up: ",
                        times.reading(),
                        times.lookingUp(),
                        times.shaping());
            }
            System.out.printf(
                    Locale.ROOT,
                    "shape rows=%d %s looking_up=%.2f records_per_s=%.0f %s%n",
                    rows,
                    Pairs.of(ratios),
                    Pairs.of(lookingUp).median(),
                    Pairs.of(rates).median(),
                    cpu.each((long) rows * Pairs.FEWEST));
        }
    }

    private Times time(Rig rig, CompiledRoute route) {
        double[] spent = new double[2];
        List<@Nullable String[]> part = new ArrayList<>(PART);
        DatasetLookUps lookUps = rig.server.bean(DatasetLookUps.class);
        long start = System.nanoTime();
        CompareBench.warehouse(rig).read(CompareBench.rows(), cells -> {
            part.add(cells.clone());
            if (part.size() == PART) {
                ours(route, lookUps, part, spent);
                part.clear();
            }
            return true;
        });
        ours(route, lookUps, part, spent);
        return new Times((System.nanoTime() - start) / 1e9 - spent[0] - spent[1], spent[0], spent[1]);
    }

    private static void ours(
            CompiledRoute route, DatasetLookUps lookUps, List<@Nullable String[]> part, double[] spent) {
        Columns columns = columns();
        List<Row> some = part.stream().map(cells -> Row.of(columns, cells)).toList();
        long start = System.nanoTime();
        LookUps found = lookUp(route, lookUps, some);
        long looked = System.nanoTime();
        spent[0] += (looked - start) / 1e9;
        shape(route, some, part, found);
        spent[1] += (System.nanoTime() - looked) / 1e9;
    }

    private static LookUps lookUp(CompiledRoute route, DatasetLookUps lookUps, List<Row> part) {
        Map<LookUps.Wanted, LookUps.Found> found = new HashMap<>();
        List<LookUps.Wanted.RowsOf> wanted = part.stream()
                .flatMap(row -> route.lookUps(row).stream())
                .map(LookUps.Wanted.RowsOf.class::cast)
                .toList();
        for (int from = 0; from < wanted.size(); from += LOOKED_UP_AT_ONCE) {
            List<LookUps.Wanted.RowsOf> some = wanted.subList(from, Math.min(wanted.size(), from + LOOKED_UP_AT_ONCE));
            Map<String, List<Value>> values = lookUps.find(
                    some.get(0).where(),
                    some.stream().map(LookUps.Wanted.RowsOf::key).toList());
            some.forEach(one -> found.put(one, new LookUps.Found.Values(values.getOrDefault(one.key(), List.of()))));
        }
        return LookUps.of(found);
    }

    private static void shape(CompiledRoute route, List<Row> rows, List<@Nullable String[]> cells, LookUps found) {
        int rules = route.spec().rules().size();
        long usable = IntStream.range(0, rows.size())
                .parallel()
                .mapToLong(i -> {
                    ShapedRecord record = route.shape(String.valueOf(cells.get(i)[0]), rows.get(i), found, Trace.NONE);
                    return record.fields().stream()
                            .filter(field -> field.shaped() instanceof Shaped.Usable with
                                    && !with.value().isEmpty())
                            .count();
                })
                .sum();
        if (usable != (long) rules * rows.size()) {
            throw new IllegalStateException(usable + " usable values of " + (long) rules * rows.size());
        }
    }

    private static Columns columns() {
        List<Column> columns = new ArrayList<>();
        for (int i = 0; i < TYPES.length; i++) {
            columns.add(new Column(Rig.COLUMNS.get(i), TYPES[i], i == 0 ? ColumnRole.KEY : ColumnRole.ATTRIBUTE));
        }
        return new Columns(columns);
    }

    private static CompiledRoute route(long accounts) {
        List<FieldRule> rules = List.of(
                from("ref", "id", new Trim()),
                from("given", "given", new Trim()),
                from("family", "family", new Trim(), new UpperCase()),
                from("mail", "email", new Trim(), new LowerCase()),
                from("mobile", "mobile", new E164("NO", "country")),
                from("country", "country", new UpperCase()),
                from("port", "port", new Trim()),
                from("code", "port", new Trim(), new Crosswalked(CROSSWALK, Crosswalked.Otherwise.UNUSABLE, "")),
                from("status", "status", new LowerCase()),
                from("last", "last_trip", new ToDate("", "Europe/Oslo")),
                from("changed", "changed_at", new ToDate("", "Europe/Oslo")),
                FieldRule.of(
                        "tier",
                        new Receives.Computed("trips > 20 ? \"often\" : (score > 50.0 ? \"keen\" : \"seldom\")")),
                from("hash", "email", new Trim(), new LowerCase(), new Sha256()),
                FieldRule.of(
                        "level",
                        new Receives.FromDataset(
                                DatasetLookUp.of(accounts, "id", "level"), "id", Receives.IfMany.UNUSABLE)));
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
                spec,
                columns(),
                new ObjectDescription("thing", "Thing", false, Abilities.all(), fields),
                new Beside(accounts));
        if (!compiled.usable()) {
            throw new IllegalStateException(compiled.faults().toString());
        }
        return compiled.route();
    }

    /** The dataset that is looked up in, and a crosswalk of as many words as such tables have. */
    private record Beside(long accounts) implements Surroundings {
        @Override
        public Stores stores() {
            List<CrosswalkTable.Pair> words = new ArrayList<>();
            List.of("Tarva", "Brenn", "Lysøy")
                    .forEach(port -> words.add(new CrosswalkTable.Pair(port, port.substring(0, 3))));
            IntStream.range(0, WORDS).forEach(n -> words.add(new CrosswalkTable.Pair("Port " + n, "P" + n)));
            CrosswalkTable table = CrosswalkTable.of(CROSSWALK, "Ports", 1, words);
            return new Stores() {
                @Override
                public Optional<CrosswalkTable> crosswalk(long id) {
                    return Optional.of(table);
                }

                @Override
                public Optional<byte[]> key(String name) {
                    return Optional.empty();
                }
            };
        }

        @Override
        public Optional<Columns> columns(long dataset) {
            return Optional.of(new Columns(List.of(
                    new Column("id", ColumnType.TEXT, ColumnRole.KEY),
                    new Column("level", ColumnType.TEXT, ColumnRole.ATTRIBUTE))));
        }

        @Override
        public Optional<Long> source(long dataset) {
            return Optional.of(1L);
        }
    }

    private static Field field(String name, FieldKind kind) {
        return new Field(
                name, name, kind, false, name.equals("ref"), false, true, false, OptionalInt.empty(), List.of());
    }

    private static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }
}
