package remitto.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.IntStream;
import remitto.core.identity.Intake;
import remitto.core.identity.Resolution;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;

/**
 * The computation alone, in memory, without any database: records normalised, blocked, weighed, joined; and how good that is beside the
 * truth. {@link IdentityBench} does the same through the product.
 */
final class ResolutionBench {
    private static final int PART = 5_000;

    private final int records;
    private final long seed;
    private final int namesakes;
    private final int again;

    /** @param again records that come when the others are joined already; 0 leaves that out */
    ResolutionBench(int records, long seed, int namesakes, int again) {
        this.again = again;
        this.records = records;
        this.seed = seed;
        this.namesakes = namesakes;
    }

    void run() throws IOException {
        List<Staged> staged = Staged.crowd(records, seed, namesakes);
        long start = System.nanoTime();
        RecordTable table = table(staged);
        double normalised = (System.nanoTime() - start) / 1e9;
        Resolution resolution = Resolution.of(table, ResolutionRules.usual(table.attributes()), new MatchOverrides());
        double seconds = (System.nanoTime() - start) / 1e9;
        if (again > 0) {
            System.out.println(new AgainBench(resolution.found().estimated())
                    .run(table(atRandom(staged).subList(0, staged.size() - again)), table(staged)));
        }
        Quality quality = Quality.of(resolution.groups().group(), truth(staged, resolution.table()));
        resolution
                .found()
                .costs()
                .forEach(cost -> System.out.printf(
                        Locale.ROOT, "%s: %d pairs, %d left out%n", cost.key().words(), cost.pairs(), cost.leftOut()));
        System.out.printf(
                Locale.ROOT,
                "normalised in %.1f s; %d persons, %d links, %d refused, %d values left out; B-cubed %.4f and %.4f%n",
                normalised,
                resolution.groups().persons(),
                resolution.found().links().size(),
                resolution.groups().refused().size(),
                resolution.common().list().size(),
                quality.bCubedPrecision(),
                quality.bCubedRecall());
        System.out.printf(
                Locale.ROOT,
                "resolution records=%d seconds=%.1f pairs=%d precision=%.4f recall=%.4f peak_mb=%d%n",
                table.size(),
                seconds,
                resolution.found().compared(),
                quality.precision(),
                quality.recall(),
                peakMegabytes());
    }

    /** Those that come later are any records, not those of persons that no other record is of yet. */
    private List<Staged> atRandom(List<Staged> staged) {
        List<Staged> mixed = new ArrayList<>(staged);
        Collections.shuffle(mixed, new Random(seed));
        return mixed;
    }

    /** The most memory the process had at any time, staged records and all (proc(5), VmHWM). */
    private static long peakMegabytes() throws IOException {
        return Files.readAllLines(Path.of("/proc/self/status")).stream()
                .filter(line -> line.startsWith("VmHWM:"))
                .mapToLong(line -> Long.parseLong(line.replaceAll("\\D", "")) / 1024)
                .findFirst()
                .orElseThrow();
    }

    private static RecordTable table(List<Staged> staged) {
        Intake intake = new Intake(Staged.ATTRIBUTES);
        RecordTable.Builder builder = new RecordTable.Builder(intake.attributes());
        List<List<String[]>> parts = IntStream.range(0, (staged.size() + PART - 1) / PART)
                .parallel()
                .mapToObj(part -> staged.subList(part * PART, Math.min(staged.size(), (part + 1) * PART)))
                .map(part -> {
                    Intake.Normalising normalising = intake.normalising();
                    return part.stream()
                            .map(one -> normalising.normalise(one.values(), "NO"))
                            .toList();
                })
                .toList();
        int next = 0;
        for (List<String[]> part : parts) {
            for (String[] values : part) {
                Staged one = staged.get(next++);
                builder.add(new RecordRef(one.source(), one.key()), values);
            }
        }
        return builder.build();
    }

    private static int[] truth(List<Staged> staged, RecordTable table) {
        java.util.Map<RecordRef, Integer> persons = new java.util.HashMap<>();
        staged.forEach(one -> persons.put(new RecordRef(one.source(), one.key()), one.person()));
        return IntStream.range(0, table.size())
                .map(record -> persons.get(table.ref(record)))
                .toArray();
    }
}
