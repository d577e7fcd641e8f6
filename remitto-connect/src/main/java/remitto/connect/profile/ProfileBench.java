package remitto.connect.profile;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.Batch;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Field;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.shaper.Shaped;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;

/** Makes single calls of a profile that is being written, and shows how their answers are read. Used by one thread. */
public final class ProfileBench {
    private static final int ROWS = 50;
    private static final Backoff ONCE = new Backoff(Duration.ofMillis(1), Duration.ofMillis(1), 2);

    private final Profile profile;
    private final Login login;
    private final Set<String> secrets;
    private final CallTools tools;
    private final RateLimit rateLimit;

    /** @param secrets that are never shown, as they are stored: the text on the bench cannot lay them open */
    public ProfileBench(Profile profile, Login login, Set<String> secrets, CallTools tools, RateLimit rateLimit) {
        this.secrets = Set.copyOf(secrets);
        this.profile = profile;
        this.login = login;
        this.tools = tools;
        this.rateLimit = rateLimit;
    }

    /** The calls a profile may have. */
    public enum Call {
        CHECK,
        ACCOUNTS,
        OBJECTS,
        FIELDS,
        FIND,
        LIST,
        ADD,
        UPDATE,
        REMOVE;

        public boolean writes() {
            return this == ADD || this == UPDATE || this == REMOVE;
        }
    }

    /**
     * What a call is made with; what it does not need is blank.
     *
     * @param by field that records are looked up by, or that is the key of those added
     * @param values looked up, or ids of records to change or remove
     * @param cursor of the page; blank for the first
     * @param fields of the one record that is added or changed
     * @param send make a writing call rather than show it
     */
    public record Request(
            Call call,
            String object,
            String by,
            List<String> values,
            Optional<Instant> since,
            String cursor,
            Map<String, String> fields,
            boolean send) {}

    /**
     * A change of a destination that was dismissed.
     *
     * A call as it went over the line, secrets hidden.
     *
     * @param status 0 when it was not made or not answered
     */
    public record Seen(
            String method,
            String address,
            Map<String, String> headers,
            String body,
            int status,
            Map<String, String> answerHeaders,
            String answer,
            long millis) {}

    /**
     * What one part of an answer was interpreted as.
     *
     * How an answer was read.
     *
     * @param rows the first of them
     * @param more what goes on, in words, or blank
     */
    public record Reading(String sentence, List<String> columns, List<List<String>> rows, String more) {
        static Reading of(String sentence) {
            return new Reading(sentence, List.of(), List.of(), "");
        }
    }

    /**
     * A test call with what it was interpreted as.
     *
     * @param problem blank when the call could be read
     */
    public record Tried(List<Seen> calls, Reading reading, String problem) {}

    public Tried run(Request request) {
        BenchRecorder recorder = new BenchRecorder(secrets, !request.call().writes() || request.send());
        ProfileDestination destination = new ProfileDestination(profile, login, tools, rateLimit, ONCE, recorder);
        try {
            Reading reading = read(destination, recorder, request);
            return new Tried(recorder.calls(), recorder.hidden(reading), "");
        } catch (DestinationProblem | CallFailure | IllegalArgumentException e) {
            return new Tried(recorder.calls(), Reading.of(""), recorder.hidden(String.valueOf(e.getMessage())));
        }
    }

    private Reading read(ProfileDestination destination, BenchRecorder recorder, Request request) {
        return switch (request.call()) {
            case CHECK -> Reading.of(destination.check());
            case ACCOUNTS -> accounts(destination);
            case OBJECTS -> objects(destination);
            case FIELDS -> fields(destination.describe(request.object()));
            case FIND -> found(destination, request);
            case LIST -> listed(destination, request);
            case ADD, UPDATE, REMOVE -> written(destination, recorder, request);
        };
    }

    private static Reading accounts(Setup setup) {
        List<List<String>> rows = setup.accounts().stream()
                .map(one -> List.of(one.id(), one.title()))
                .toList();
        return new Reading(counted(rows.size(), "account"), List.of("id", "title"), first(rows), "");
    }

    private static Reading objects(ProfileDestination destination) {
        List<List<String>> rows = destination.objects().stream()
                .map(one -> List.of(one.name(), one.title(), yes(one.people()), yes(one.list())))
                .toList();
        return new Reading(counted(rows.size(), "object"), List.of("name", "title", "people", "list"), first(rows), "");
    }

    private static Reading fields(ObjectDescription object) {
        List<List<String>> rows =
                object.fields().stream().map(ProfileBench::field).toList();
        return new Reading(
                counted(rows.size(), "field") + " of " + object.title(),
                List.of("name", "title", "kind", "required", "unique", "read-only", "writable", "longest", "choices"),
                first(rows),
                "");
    }

    private static List<String> field(Field field) {
        return List.of(
                field.name(),
                field.title(),
                field.kind().name().toLowerCase(java.util.Locale.ROOT),
                yes(field.required()),
                yes(field.unique()),
                yes(field.readOnly()),
                yes(field.writable()),
                field.maxLength().isPresent()
                        ? Integer.toString(field.maxLength().getAsInt())
                        : "",
                String.join(", ", field.choices()));
    }

    private Reading found(ProfileDestination destination, Request request) {
        ObjectDescription object = destination.describe(request.object());
        List<Value> values =
                request.values().stream().map(text -> Value.text(text)).toList();
        return records(
                counted(request.values().size(), "value") + " looked up",
                destination.find(object, request.by(), values),
                "");
    }

    private Reading listed(ProfileDestination destination, Request request) {
        ObjectDescription object = destination.describe(request.object());
        Optional<String> cursor = Optional.of(request.cursor()).filter(text -> !text.isEmpty());
        var page = destination.list(object, request.since(), cursor);
        String more = page.next().map(next -> "The next page begins at " + next).orElse("This is the last page");
        return records(counted(page.deleted().size(), "deleted record"), page.records(), more);
    }

    private static Reading records(String beside, List<Destination.RemoteRecord> records, String more) {
        Set<String> names = new LinkedHashSet<>();
        records.forEach(one -> one.fields().forEach((name, value) -> {
            if (!value.isEmpty()) {
                names.add(name);
            }
        }));
        List<String> columns = new ArrayList<>(List.of("id"));
        columns.addAll(names);
        List<List<String>> rows = new ArrayList<>();
        for (Destination.RemoteRecord one : records) {
            List<String> row = new ArrayList<>(List.of(one.id()));
            names.forEach(name -> row.add(plain(one.fields().getOrDefault(name, Value.EMPTY))));
            rows.add(row);
        }
        return new Reading(counted(rows.size(), "record") + ", " + beside, columns, first(rows), more);
    }

    private Reading written(ProfileDestination destination, BenchRecorder recorder, Request request) {
        ObjectDescription object = destination.describe(request.object());
        Map<String, Value> fields = new LinkedHashMap<>();
        request.fields().forEach((name, text) -> fields.put(name, typed(object, name, text)));
        String id = request.values().isEmpty() ? "" : request.values().get(0);
        if (request.call() != Call.ADD && id.isEmpty()) {
            throw new IllegalArgumentException("Enter the record id in the destination.");
        }
        Value key = fields.getOrDefault(request.by(), Value.EMPTY);
        Batch batch = new Batch(
                object, request.by(), List.of(new Destination.Outgoing(id, key, fields)), "bench-" + System.nanoTime());
        recorder.writing();
        CallOutcome outcome =
                switch (request.call()) {
                    case ADD -> destination.add(batch);
                    case UPDATE -> destination.update(batch);
                    default -> destination.remove(batch);
                };
        return request.send() ? outcome(outcome) : Reading.of("This is the call as it would be made; it was not made.");
    }

    private static Value typed(ObjectDescription object, String name, String text) {
        Field field = object.fields().stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(object.title() + " has no field " + name + "."));
        if (text.isEmpty()) {
            return Value.EMPTY;
        }
        Shaped shaped = Fit.into(field, Value.text(text));
        if (shaped instanceof Shaped.Unusable unusable) {
            throw new IllegalArgumentException(name + ": " + unusable.reason());
        }
        return ((Shaped.Usable) shaped).value();
    }

    private static Reading outcome(CallOutcome outcome) {
        if (outcome instanceof CallOutcome.Answered answered) {
            List<List<String>> rows = answered.results().stream()
                    .map(one -> List.of(yes(one.accepted()), yes(one.movedOn()), one.id(), one.outcome(), one.reason()))
                    .toList();
            return new Reading(
                    counted(rows.size(), "result"),
                    List.of("accepted", "moved on", "id", "outcome", "reason"),
                    rows,
                    "");
        }
        if (outcome instanceof CallOutcome.Failed failed) {
            return Reading.of("Refused as a whole (" + failed.status() + "): " + failed.reason() + ". "
                    + (failed.retriable() ? "It would be tried again." : "It would not be tried again."));
        }
        if (outcome instanceof CallOutcome.Throttled) {
            return Reading.of("The tool asks to wait; nothing was taken.");
        }
        if (outcome instanceof CallOutcome.NotSent notSent) {
            return Reading.of("Not made: " + notSent.reason() + ".");
        }
        return Reading.of("Outcome unknown: " + ((CallOutcome.Unknown) outcome).reason() + ".");
    }

    private static List<List<String>> first(List<List<String>> rows) {
        return rows.subList(0, Math.min(rows.size(), ROWS));
    }

    private static String counted(int number, String what) {
        return number + " " + what + (number == 1 ? "" : "s");
    }

    private static String yes(boolean flag) {
        return flag ? "yes" : "";
    }

    private static String plain(Value value) {
        return JsonForm.write(value).map(Object::toString).orElse("");
    }
}
