package remitto.standins.fault;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a stand-in received, in the order it came in, whatever anybody else believes. A line is known by the run that sent it
 * (a caller names its calls {@code run-call} in {@code X-Request-ID}) and by the record it writes.
 *
 * @param calls oldest first
 */
public record Testimony(List<Call> calls) {
    /** An answer's word for a line of a call that was taken before, under the same key. */
    public static final String KNOWN_KEY = "known key";

    /** What an answer calls a line that took effect, or that says what is there already. */
    private static final Set<String> EFFECTS =
            Set.of("added", "written", "same", "removed", "made", "kept", "dropped", "in", "out", "taken", KNOWN_KEY);

    public Testimony {
        calls = List.copyOf(calls);
    }

    /**
     * @param asked what the caller calls it
     * @param key under which the stand-in takes it once; blank where it offers none
     * @param from place of its coming in among all that happened
     * @param to place of its end; empty when the stand-in was stopped first
     * @param answered the caller was given an answer to believe
     */
    public record Call(
            long number,
            String asked,
            String key,
            String path,
            List<String> lines,
            int from,
            Optional<Integer> to,
            int status,
            boolean answered,
            List<String> told) {
        /** The run that sent it. */
        public String run() {
            int dash = asked.lastIndexOf('-');
            return dash < 0 ? asked : asked.substring(0, dash);
        }

        boolean tookEffect(int at) {
            return EFFECTS.contains(said(at));
        }

        String said(int at) {
            return at < told.size() ? told.get(at) : "";
        }

        /** It came in under the key of an earlier call, and is that call. */
        boolean isSameAs(Call earlier) {
            return !key.isEmpty() && key.equals(earlier.key);
        }
    }

    /** @param file of the stand-in's data; a last line that is half written is not there yet */
    public static Testimony of(Path file) {
        try {
            Path witness = beside(file);
            String text = Files.exists(witness) ? Files.readString(witness, StandardCharsets.UTF_8) : "";
            return read(text.substring(0, text.lastIndexOf('\n') + 1).lines().toList());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Where the witness of a stand-in writes. */
    public static Path beside(Path data) {
        return data.resolveSibling(data.getFileName() + ".witness");
    }

    static Testimony read(List<String> lines) {
        JsonMapper json = JsonMapper.builder().build();
        Map<Long, Call> calls = new LinkedHashMap<>();
        for (int at = 0; at < lines.size(); at++) {
            JsonNode line = json.readTree(lines.get(at));
            int place = at;
            if (line.has("call")) {
                calls.put(line.get("call").asLong(), came(line, place));
            } else if (line.has("ended")) {
                calls.computeIfPresent(line.get("ended").asLong(), (number, call) -> ended(call, line, place));
            }
        }
        return new Testimony(List.copyOf(calls.values()));
    }

    private static Call came(JsonNode line, int at) {
        return new Call(
                line.get("call").asLong(),
                line.get("asked").asString(),
                line.get("key").asString(),
                line.get("path").asString(),
                texts(line.get("lines")),
                at,
                Optional.empty(),
                0,
                false,
                List.of());
    }

    private static Call ended(Call call, JsonNode line, int at) {
        return new Call(
                call.number(),
                call.asked(),
                call.key(),
                call.path(),
                call.lines(),
                call.from(),
                Optional.of(at),
                line.get("status").asInt(),
                line.get("answered").asBoolean(),
                texts(line.get("told")));
    }

    private static List<String> texts(JsonNode array) {
        List<String> texts = new ArrayList<>();
        array.forEach(one -> texts.add(one.asString()));
        return texts;
    }

    /** Only calls after this one. */
    public Testimony since(long number) {
        return new Testimony(
                calls.stream().filter(call -> call.number() > number).toList());
    }

    /** The last call there is; 0 when there is none. */
    public long last() {
        return calls.isEmpty() ? 0 : calls.get(calls.size() - 1).number();
    }

    /** How often each line came in, whatever came of it. */
    public Map<String, Integer> receipts() {
        Map<String, Integer> receipts = new HashMap<>();
        each((call, at, line) -> receipts.merge(line, 1, Integer::sum));
        return receipts;
    }

    /** Lines that came in more often than they should, by what they should not have done. */
    private interface Each {
        void line(Call call, int at, String line);
    }

    private void each(Each each) {
        for (Call call : calls) {
            for (int at = 0; at < call.lines().size(); at++) {
                each.line(call, at, call.run() + " " + call.lines().get(at));
            }
        }
    }

    /**
     * Lines that came in again although an earlier call with them had been answered with success, or was still under way. Whatever
     * the later call did, its sender did not know what it was doing.
     */
    public List<String> doubled() {
        List<String> doubled = new ArrayList<>();
        Map<String, List<Receipt>> before = new HashMap<>();
        each((call, at, line) -> {
            List<Receipt> earlier = before.computeIfAbsent(line, fresh -> new ArrayList<>());
            if (earlier.stream().anyMatch(one -> one.forbids(call))) {
                doubled.add(line);
            }
            earlier.add(new Receipt(call, at));
        });
        return doubled;
    }

    /**
     * Lines that came in again after they had taken effect in a call that nobody was given an answer to: harmless where a write is
     * the same, or an addition meets what it added, but needless where one can ask first.
     */
    public List<String> repeated() {
        List<String> repeated = new ArrayList<>();
        Map<String, List<Receipt>> before = new HashMap<>();
        Set<String> doubles = new HashSet<>(doubled());
        each((call, at, line) -> {
            List<Receipt> earlier = before.computeIfAbsent(line, fresh -> new ArrayList<>());
            if (!doubles.contains(line) && earlier.stream().anyMatch(one -> one.wasLost(call, at))) {
                repeated.add(line);
            }
            earlier.add(new Receipt(call, at));
        });
        return repeated;
    }

    private record Receipt(Call call, int at) {
        boolean forbids(Call later) {
            if (later.isSameAs(call)) {
                return false;
            }
            boolean success = call.tookEffect(at);
            boolean over = call.to().filter(end -> end < later.from()).isPresent();
            return success && (call.answered() || call.to().isPresent() && !over);
        }

        /** What a killed stand-in did not say it did shows in what it says to the next. */
        boolean wasLost(Call later, int place) {
            if (later.isSameAs(call)) {
                return false;
            }
            String said = later.said(place);
            return call.to().isPresent()
                    ? call.tookEffect(at) && !call.answered()
                    : said.equals("same")
                            || said.equals("present")
                            || said.equals("absent") && call.path().endsWith("/remove");
        }
    }

    /** Lines that took effect, or may have, in calls that got no answer to believe. */
    public Set<String> inDoubt() {
        Set<String> doubt = new HashSet<>();
        each((call, at, line) -> {
            if (!call.answered() && (call.to().isEmpty() || call.tookEffect(at))) {
                doubt.add(line);
            }
        });
        return doubt;
    }
}
