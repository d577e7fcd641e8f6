package remitto.bench;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.LongSupplier;
import remitto.demo.history.Desk;
import tools.jackson.databind.JsonNode;

/**
 * How much memory stays in use while every record of a manifest is held, sent and downloaded: the most that was left
 * after any collection, in each phase, for a tenth of the rows and for all of them. The source records are known by
 * primitive arrays, which grow with them; lines and values do not.
 */
final class MemoryBench {
    private static final int SMALLER = 10;

    private final int rows;

    MemoryBench(int rows) {
        this.rows = rows;
    }

    private record Phase(String name, long megabytes) {}

    void run() throws Exception {
        List<Phase> few = measure(rows / SMALLER);
        List<Phase> many = measure(rows);
        StringBuilder out = new StringBuilder("memory rows=" + rows);
        for (int i = 0; i < many.size(); i++) {
            out.append(String.format(
                    Locale.ROOT,
                    " %s_mb=%d/%d",
                    many.get(i).name(),
                    few.get(i).megabytes(),
                    many.get(i).megabytes()));
        }
        System.out.println(out);
    }

    private List<Phase> measure(int size) throws Exception {
        List<Phase> phases = new ArrayList<>();
        try (Rig rig = new Rig(size);
                StandInProcess standIn = StandInProcess.start(rig.folder);
                LiveMemory memory = LiveMemory.watch()) {
            new Desk(standIn.address()).limit(false);
            rig.setUp(standIn.address().toString());
            rig.inWarehouse("update public.people set family = ''");
            JsonNode[] run = new JsonNode[1];
            phases.add(phase("held", memory, size, () -> {
                run[0] = rig.prepare();
                return run[0].get("counts").get("held").asLong();
            }));
            phases.add(phase("held_download", memory, size, () -> rig.api.lines("/api/held/held.csv") - 1));
            rig.api.post("/api/runs/" + run[0].get("id").asLong() + "/discard", Map.of());
            rig.inWarehouse("update public.people set family = 'Solvang'");
            phases.add(phase("drawn", memory, size, () -> {
                run[0] = rig.prepare();
                return run[0].get("counts").get("added").asLong();
            }));
            long id = run[0].get("id").asLong();
            phases.add(phase("sent", memory, size, () -> {
                rig.api.post("/api/runs/" + id + "/send", Map.of());
                return rig.api.await(id).get("outcomes").path("ACKNOWLEDGED").asLong();
            }));
            phases.add(phase("download", memory, size, () -> rig.api.lines("/api/runs/" + id + "/manifest.jsonl")));
        }
        return phases;
    }

    private static Phase phase(String name, LiveMemory memory, long expected, LongSupplier work) {
        memory.begin();
        long start = System.nanoTime();
        long done = work.getAsLong();
        if (done != expected) {
            throw new IllegalStateException(name + ": " + done + " records, not " + expected);
        }
        Phase phase = new Phase(name, memory.most());
        System.out.printf(
                Locale.ROOT,
                "%s: %d records, %.0f s, %d MB%n",
                name,
                done,
                (System.nanoTime() - start) / 1e9,
                phase.megabytes());
        return phase;
    }
}
