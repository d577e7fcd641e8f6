package remitto.bench.crash;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import remitto.standins.fault.Testimony;

/**
 * Sends five routes again and again, and takes one of them back every third time, while faults are on and things are killed, stopped, cut off and filled up, and compares what
 * the tools hold after every round with the warehouse.
 */
public final class CrashRun {
    /** Of Purser, Lamplight and Foghorn. They stay on until the round has ended. */
    static final List<String> FAULTS = List.of("""
            [{"fault":"latency","on":"batch","share":1,"millis":150},{"fault":"latency","on":"find","share":1,"millis":60},
             {"fault":"server-error","on":"batch","share":0.04},{"fault":"drop-before","on":"batch","share":0.04},
             {"fault":"drop-after","on":"batch","share":0.04},{"fault":"drop-after","on":"remove","share":0.04},
             {"fault":"expired-token","on":"batch","share":0.05}]
            """, """
            [{"fault":"latency","on":"jobs","share":1,"millis":80},{"fault":"drop-after","on":"jobs","share":0.05},
             {"fault":"server-error","on":"jobs","share":0.05}]
            """, """
            [{"fault":"latency","on":"say","share":1,"millis":100},{"fault":"drop-after","on":"say","share":0.05}]
            """);

    private static final long LONGEST_WAIT_MILLIS = 20_000;
    private static final int SECOND_BLOW_MILLIS = 2_000;
    private static final List<Blow> SECONDS = List.of(Blow.KILL_SERVER, Blow.KILL_TOOLS, Blow.KILL_DATABASE);

    private final CrashRig.Jars jars;
    private final Plan plan;
    private final Random random;

    /**
     * @param people of the made-up company; about two in five hold a pass that is sent
     * @param seed what befalls when, up to the moment
     * @param blows what may befall; all of them in turn
     */
    public record Plan(int times, int people, long seed, List<Blow> blows) {
        /** Everything there is. */
        public static Plan whole(int times, long seed, boolean smallDisk) {
            List<Blow> blows = new ArrayList<>(List.of(Blow.values()));
            if (!smallDisk) {
                blows.remove(Blow.FULL_DISK);
            }
            return new Plan(times, 9_000, seed, blows);
        }

        /** The quick ones. */
        public static Plan kills(int times, int people, long seed) {
            return new Plan(
                    times,
                    people,
                    seed,
                    List.of(Blow.KILL_SERVER, Blow.KILL_TOOLS, Blow.KILL_DATABASE, Blow.PAUSE_SERVER));
        }
    }

    public CrashRun(Path bench, Path standIns, Plan plan) {
        this.jars = new CrashRig.Jars(bench, standIns);
        this.plan = plan;
        this.random = new Random(plan.seed());
    }

    /**
     * What came of it. All but the rounds and the lines are to be nothing.
     *
     * @param lost records, removals, messages and rows that are not as the warehouse says, for not having been written
     * @param doubled lines a tool received again after it had answered them, and things that are there twice
     * @param wrong fields with another value
     * @param repeated lines a tool received again after it had taken them unheard
     * @param helped presses of a person beyond one Send for each manifest
     * @param paused rounds in which something was stopped and woke up again
     * @param received lines that the tools received
     * @param faults each thing that is counted in the first five, in words
     */
    public record Verdict(
            int lost,
            int doubled,
            int wrong,
            int repeated,
            int helped,
            int paused,
            long received,
            List<String> faults) {
        public boolean isGood() {
            return lost + doubled + wrong + repeated + helped == 0;
        }

        @Override
        public String toString() {
            return "lost=" + lost + " doubled=" + doubled + " wrong=" + wrong + " repeated=" + repeated + " helped="
                    + helped + " paused=" + paused;
        }
    }

    public Verdict run() throws Exception {
        System.out.println("crash seed=" + plan.seed());
        boolean small = plan.blows().contains(Blow.FULL_DISK);
        try (CrashRig rig = new CrashRig(jars, plan.people(), small)) {
            Comparison comparison = new Comparison(rig);
            Round first = new Round(rig, Sea.isUndo(0));
            rig.sea.change(0);
            first.bringToItsEnd(Map.of());
            comparison.afterRound(0, Map.of());
            List<String> presses = new ArrayList<>(first.presses());
            int paused = 0;
            List<Blow> deck = new ArrayList<>();
            for (int number = 1; number <= plan.times(); number++) {
                if (deck.isEmpty()) {
                    deck.addAll(plan.blows());
                    Collections.shuffle(deck, random);
                }
                Blow blow = deck.remove(deck.size() - 1);
                paused += blow.isPause() ? 1 : 0;
                Map<String, Long> since = comparison.last();
                Round round = round(rig, number, blow);
                int before = faults(comparison);
                comparison.afterRound(number, since);
                presses.addAll(round.presses());
                tell(number, round, comparison, before);
            }
            return new Verdict(
                    comparison.lost().size(),
                    comparison.doubled().size(),
                    comparison.wrong().size(),
                    comparison.repeated().size(),
                    presses.size(),
                    paused,
                    received(rig),
                    everything(comparison, presses));
        }
    }

    private static List<String> everything(Comparison comparison, List<String> presses) {
        List<String> everything = new ArrayList<>();
        everything.addAll(comparison.lost());
        everything.addAll(comparison.doubled());
        everything.addAll(comparison.wrong());
        everything.addAll(comparison.repeated());
        presses.forEach(press -> everything.add("pressed: " + press));
        return List.copyOf(everything);
    }

    private static int faults(Comparison comparison) {
        return comparison.lost().size()
                + comparison.doubled().size()
                + comparison.wrong().size()
                + comparison.repeated().size();
    }

    private static void tell(int number, Round round, Comparison comparison, int before) {
        int more = faults(comparison) - before;
        System.out.println("round " + number + ": " + (more == 0 ? "all as it should be" : more + " faults"));
        round.presses().forEach(press -> System.out.println("  pressed: " + press));
        for (List<String> list :
                List.of(comparison.lost(), comparison.doubled(), comparison.wrong(), comparison.repeated())) {
            list.stream()
                    .skip(Math.max(0, list.size() - 3))
                    .filter(one -> more > 0)
                    .forEach(one -> System.out.println("  " + one));
        }
    }

    private static long received(CrashRig rig) {
        long received = 0;
        for (String tool : List.of("purser", "lamplight", "foghorn")) {
            for (Testimony.Call call :
                    Testimony.of(rig.folder.resolve(tool + ".jsonl")).calls()) {
                received += call.lines().size();
            }
        }
        return received;
    }

    private Round round(CrashRig rig, int number, Blow blow) throws Exception {
        Map<Long, Long> before = new HashMap<>();
        for (long route : rig.routes.all()) {
            rig.tryToAsk(api -> api.get("/api/runs?routeId=" + route))
                    .ifPresent(page ->
                            before.put(route, page.get("runs").get(0).get("id").asLong()));
        }
        rig.sea.change(number);
        Moment moment = Moment.values()[random.nextInt(Moment.values().length)];
        rig.faults(moment == Moment.SIGNING_IN ? withExpiredToken() : FAULTS);
        boolean twice = random.nextInt(3) == 0;
        Blow second = SECONDS.get(random.nextInt(SECONDS.size()));
        long calls = lastCall(rig);
        long received = Testimony.of(rig.folder.resolve("purser.jsonl")).last();
        Round round = new Round(rig, Sea.isUndo(number));
        CompletableFuture<Void> driven = CompletableFuture.runAsync(() -> drive(round, before));
        long waited = await(rig, round, moment, calls, received, driven);
        int more = random.nextInt(moment.spread());
        TimeUnit.MILLISECONDS.sleep(more);
        System.out.println("round " + number + ": " + blow + " at " + moment + " (" + waited + " + " + more
                + " ms), runs " + round.seen() + (twice ? "then " + second : ""));
        CompletableFuture<Void> after = twice ? secondBlow(rig, second) : CompletableFuture.completedFuture(null);
        blow.strike(rig, random);
        after.join();
        driven.join();
        for (CrashRig.Ship ship : rig.servers) {
            rig.awaitServer(ship);
        }
        rig.faults(List.of("[]", "[]", "[]"));
        return round;
    }

    /** The first call that writes finds that its token has ended. */
    private static List<String> withExpiredToken() {
        List<String> faults = new ArrayList<>(FAULTS);
        faults.set(
                0,
                FAULTS.get(0)
                        .strip()
                        .replaceFirst("\\[", "[{\"fault\":\"expired-token\",\"on\":\"batch\",\"next\":1},"));
        return faults;
    }

    private static void drive(Round round, Map<Long, Long> before) {
        try {
            round.bringToItsEnd(before);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Falls within two seconds of the first, while what that broke is perhaps not yet mended. */
    private CompletableFuture<Void> secondBlow(CrashRig rig, Blow second) {
        int wait = random.nextInt(SECOND_BLOW_MILLIS);
        Random own = new Random(random.nextLong());
        return CompletableFuture.runAsync(() -> {
            try {
                TimeUnit.MILLISECONDS.sleep(wait);
                synchronized (rig) {
                    second.strike(rig, own);
                }
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        });
    }

    private static long lastCall(CrashRig rig) {
        String calls = rig.desks.get(0).calls(0);
        int at = calls.lastIndexOf("\"number\":");
        return at < 0 ? 0 : Long.parseLong(calls.substring(at + 9).replaceAll("^(\\d+).*$", "$1"));
    }

    /** @return milliseconds it took */
    private static long await(
            CrashRig rig, Round round, Moment moment, long calls, long received, CompletableFuture<Void> driven)
            throws InterruptedException {
        long start = System.currentTimeMillis();
        while (!has(rig, round, moment, calls, received)
                && !driven.isDone()
                && System.currentTimeMillis() - start < LONGEST_WAIT_MILLIS) {
            TimeUnit.MILLISECONDS.sleep(5);
        }
        return System.currentTimeMillis() - start;
    }

    private static boolean has(CrashRig rig, Round round, Moment moment, long calls, long received) {
        return switch (moment) {
            case PREPARING -> round.seen().contains("PREPARING");
            case LOOKING_UP -> rig.desks.get(0).calls(calls).contains("/find");
            case SIGNING_IN ->
                round.hasBegunSending() && rig.desks.get(0).calls(calls).contains("/oauth/token");
            case SENDING -> Testimony.of(rig.folder.resolve("purser.jsonl")).last() > received;
            case ACKNOWLEDGING ->
                Testimony.of(rig.folder.resolve("purser.jsonl")).last() > received + 4;
        };
    }
}
