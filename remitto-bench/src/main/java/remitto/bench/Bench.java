package remitto.bench;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import remitto.bench.crash.CrashRun;

/** Benchmarks of the whole product. Each prints a ratio against a limit measured in the same run. */
public final class Bench {
    private Bench() {}

    public static void main(String[] args) throws Exception {
        List<String> all = List.of(args);
        switch (args.length == 0 ? "" : args[0]) {
            case "compare" -> new CompareBench(number(all, "--rows").orElse(1_000_000)).run();
            case "send" ->
                new SendBench(
                                number(all, "--rows").orElse(100_000),
                                number(all, "--away").orElse(0),
                                number(all, "--pairs").orElse(Pairs.FEWEST))
                        .run();
            case "audience" ->
                new AudienceBench(number(all, "--people").orElse(1_000_000), all.contains("--kept")).run();
            case "limit" -> new LimitBench(number(all, "--seconds").orElse(60)).run();
            case "shape" -> new ShapeBench(number(all, "--rows").orElse(1_000_000)).run();
            case "identity" ->
                new IdentityBench(
                                number(all, "--records").orElse(1_000_000),
                                number(all, "--seed").orElse(4_711),
                                number(all, "--namesakes").orElse(0))
                        .run();
            case "resolution" ->
                new ResolutionBench(
                                number(all, "--records").orElse(1_000_000),
                                number(all, "--seed").orElse(4_711),
                                number(all, "--namesakes").orElse(0),
                                number(all, "--again").orElse(0))
                        .run();
            case "memory" -> new MemoryBench(number(all, "--rows").orElse(1_000_000)).run();
            case "intake" ->
                new IntakeBench(
                                number(all, "--rows").orElse(1_500_000),
                                number(all, "--seconds").orElse(20))
                        .run();
            case "crash" -> crash(all);
            default -> {
                System.err.println(
                        "usage: bench compare --rows N | send --rows N --away MILLIS --pairs N | shape --rows N | identity --records N --seed N --namesakes N | resolution --records N --seed N --namesakes N --again N | audience --people N [--kept] | memory --rows N | limit --seconds N | intake --rows N --seconds N | crash --times N --seed N [--short] [--no-small-disk]");
                System.exit(2);
            }
        }
    }

    private static void crash(List<String> all) throws Exception {
        int times = number(all, "--times").orElse(20);
        long seed = number(all, "--seed").map(Integer::longValue).orElseGet(() -> System.nanoTime() % 1_000_000);
        CrashRun.Verdict verdict = new CrashRun(
                        Path.of(System.getProperty("remitto.bench.jar")),
                        Path.of(System.getProperty("remitto.standins.jar")),
                        all.contains("--short")
                                ? CrashRun.Plan.kills(times, 2_500, seed)
                                : CrashRun.Plan.whole(times, seed, !all.contains("--no-small-disk")))
                .run();
        System.out.println("crash times=" + times + " " + verdict);
        System.exit(verdict.isGood() ? 0 : 1);
    }

    private static Optional<Integer> number(List<String> args, String name) {
        int at = args.indexOf(name);
        return at >= 0 && at + 1 < args.size() ? Optional.of(Integer.parseInt(args.get(at + 1))) : Optional.empty();
    }
}
