package remitto.bench;

import java.util.List;
import java.util.Optional;

/** Benchmarks of the whole product. Each prints a ratio against a limit measured in the same run. */
public final class Bench {
    private Bench() {}

    public static void main(String[] args) throws Exception {
        Optional<Integer> rows = rows(List.of(args));
        if (args.length == 0 || rows.isEmpty()) {
            System.err.println("usage: bench compare|send --rows N");
            System.exit(2);
        }
        switch (args[0]) {
            case "compare" -> new CompareBench(rows.get()).run();
            case "send" -> new SendBench(rows.get()).run();
            default -> {
                System.err.println("bench knows compare and send, not " + args[0]);
                System.exit(2);
            }
        }
    }

    private static Optional<Integer> rows(List<String> args) {
        int at = args.indexOf("--rows");
        return at >= 0 && at + 1 < args.size() ? Optional.of(Integer.parseInt(args.get(at + 1))) : Optional.empty();
    }
}
