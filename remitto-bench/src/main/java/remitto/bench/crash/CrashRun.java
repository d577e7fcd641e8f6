package remitto.bench.crash;

import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import tools.jackson.databind.JsonNode;

/**
 * Runs one route again and again, while the server, the stand-in and PostgreSQL are killed in turn at random moments
 * and faults are on, and compares what the destination holds in the end with an undisturbed run over the same data.
 */
public final class CrashRun {
    private static final String FAULTS = """
            [{"fault":"latency","on":"batch","share":1,"millis":120},{"fault":"server-error","on":"batch","share":0.04},
             {"fault":"drop-before","on":"batch","share":0.04},{"fault":"drop-after","on":"batch","share":0.04}]
            """;
    private static final Set<String> OVER = Set.of("SENT", "CANCELLED", "FAILED", "INTERRUPTED");

    private final CrashRig.Jars jars;
    private final int times;
    private final int people;
    private final Random random;

    /** @param people of the made-up company; about two in five hold a pass that is sent */
    public CrashRun(CrashRig.Jars jars, int times, int people, long seed) {
        this.jars = jars;
        this.times = times;
        this.people = people;
        this.random = new Random(seed);
    }

    /**
     * What came of it: nothing of the first three, if all is well.
     *
     * @param repeated harmless identical rewrites the stand-in saw; those before it was killed in a round are not known
     */
    public record Verdict(int lost, int doubled, int wrong, long repeated, long sent) {
        @Override
        public String toString() {
            return "lost=" + lost + " doubled=" + doubled + " wrong=" + wrong + " repeated=" + repeated;
        }
    }

    public static CrashRig.Jars jars(java.nio.file.Path server, java.nio.file.Path standIns) {
        return new CrashRig.Jars(server, standIns);
    }

    public Verdict run() throws Exception {
        Map<String, Map<String, String>> undisturbed;
        try (CrashRig rig = new CrashRig(jars, people)) {
            settle(rig, rig.startSending());
            for (int round = 1; round <= times; round++) {
                rig.changeRows(round);
                settle(rig, rig.startSending());
            }
            undisturbed = rig.witness.records("contact", "external_ref");
        }
        System.out.println("undisturbed: " + undisturbed.size() + " records");
        try (CrashRig rig = new CrashRig(jars, people)) {
            settle(rig, rig.startSending());
            int doubled = 0;
            long sent = 0;
            long repeated = 0;
            for (int round = 1; round <= times; round++) {
                rig.changeRows(round);
                rig.desk.faults(FAULTS);
                int from = rig.witness.length();
                long run = rig.startSending();
                kill(rig, round, from);
                rig.desk.faults("[]");
                sent += settle(rig, run);
                doubled += rig.witness.doubled(from);
                settle(rig, rig.startSending());
                repeated += rig.repeatsSinceLast();
            }
            return compare(undisturbed, rig.witness.records("contact", "external_ref"), doubled, repeated, sent);
        }
    }

    private static Verdict compare(
            Map<String, Map<String, String>> wanted,
            Map<String, Map<String, String>> found,
            int doubled,
            long repeated,
            long sent) {
        int lost = 0;
        int wrong = 0;
        for (var entry : wanted.entrySet()) {
            if (!found.containsKey(entry.getKey())) {
                lost++;
            } else if (!found.get(entry.getKey()).equals(entry.getValue())) {
                wrong++;
                System.out.println("wrong: " + entry.getKey() + " " + found.get(entry.getKey()) + " instead of "
                        + entry.getValue());
            }
        }
        int more = (int)
                found.keySet().stream().filter(key -> !wanted.containsKey(key)).count();
        return new Verdict(lost, doubled + more, wrong, repeated, sent);
    }

    private void kill(CrashRig rig, int round, int from) throws Exception {
        while (rig.witness.length() == from) {
            TimeUnit.MILLISECONDS.sleep(3);
        }
        TimeUnit.MILLISECONDS.sleep(random.nextInt(600));
        String target = new String[] {"server", "stand-in", "PostgreSQL"}[round % 3];
        System.out.println("round " + round + ": killing " + target);
        switch (target) {
            case "server" -> {
                rig.server.kill();
                rig.server.start();
            }
            case "stand-in" -> {
                rig.standIn.kill();
                TimeUnit.MILLISECONDS.sleep(random.nextInt(1500));
                rig.standIn.start();
                rig.awaitDesk();
                rig.desk.limit(false);
            }
            default -> {
                rig.cluster.kill();
                TimeUnit.MILLISECONDS.sleep(random.nextInt(1500));
                rig.cluster.start();
            }
        }
    }

    /** Waits for a run, helping a halted one on; returns the lines that were acknowledged. */
    private static long settle(CrashRig rig, long run) throws Exception {
        while (true) {
            JsonNode state = rig.state(run);
            String name = state.get("state").asString();
            if (OVER.contains(name)) {
                return state.get("outcomes").path("ACKNOWLEDGED").asLong(0);
            }
            if (name.equals("HALTED") && !state.get("halt").asString().equals("CIRCUIT")) {
                rig.sendRest(run);
            }
            TimeUnit.MILLISECONDS.sleep(100);
        }
    }
}
