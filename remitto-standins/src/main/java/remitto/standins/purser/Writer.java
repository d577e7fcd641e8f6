package remitto.standins.purser;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import remitto.standins.fault.Gate;
import remitto.standins.purser.Catalogue.CatalogueObject;
import remitto.standins.purser.PurserStore.Change;
import tools.jackson.databind.JsonNode;

/** Checks the records of a batch one by one and applies those that pass, as one step. */
final class Writer {
    private final PurserStore store;

    Writer(PurserStore store) {
        this.store = store;
    }

    /** What to do with a record by whether it is there. */
    record Policy(String by, boolean addWhenAbsent, boolean writeWhenPresent) {}

    record Wanted(JsonNode key, Map<String, JsonNode> fields) {}

    /** @param outcome added, written, same, refused, present (and not to be) or absent (and not to be) */
    record Result(int position, String outcome, String id, List<Problem> problems) {}

    List<Result> write(CatalogueObject object, Policy policy, List<Wanted> batch, Instant at, Gate.Through through) {
        String client = through.client();
        synchronized (store.lock()) {
            List<Result> results = new ArrayList<>();
            List<Change> changes = new ArrayList<>();
            Map<String, String> taken = new HashMap<>();
            for (int i = 0; i < batch.size(); i++) {
                results.add(
                        through.partial() && i % 2 == 1
                                ? refused(i, new Problem(policy.by(), "fault", "refused by the fault panel"))
                                : one(object, policy, batch.get(i), i, changes, taken, client));
            }
            store.apply(object.name(), changes, at, client);
            return results;
        }
    }

    private Result one(
            CatalogueObject object,
            Policy policy,
            Wanted wanted,
            int position,
            List<Change> changes,
            Map<String, String> taken,
            String client) {
        List<PurserRecord> found = store.find(object.name(), policy.by(), wanted.key());
        if (found.size() > 1) {
            return refused(position, new Problem(policy.by(), "ambiguous", found.size() + " records match"));
        }
        Map<String, JsonNode> fields = new LinkedHashMap<>(wanted.fields());
        boolean adding = found.isEmpty();
        if (adding && !policy.addWhenAbsent()) {
            return new Result(position, "absent", "", List.of(new Problem(policy.by(), "absent", "no such record")));
        }
        if (!adding && !policy.writeWhenPresent()) {
            return new Result(
                    position,
                    "present",
                    found.get(0).id(),
                    List.of(new Problem(policy.by(), "present", "such a record exists")));
        }
        if (adding) {
            fields.putIfAbsent(policy.by(), wanted.key());
        }
        String id = adding ? "" : found.get(0).id();
        List<Problem> problems = problems(object, fields, adding, id, taken, client);
        if (!problems.isEmpty()) {
            return new Result(position, "refused", id, problems);
        }
        if (adding) {
            id = store.newId();
        } else if (same(found.get(0), fields)) {
            return new Result(position, "same", id, List.of());
        }
        String owner = id;
        object.fields().stream()
                .filter(field -> field.unique() && present(fields, field.name()).isPresent())
                .forEach(field -> taken.put(slot(field, fields), owner));
        changes.add(new Change(adding ? "add" : "write", id, fields));
        return new Result(position, adding ? "added" : "written", id, List.of());
    }

    private List<Problem> problems(
            CatalogueObject object,
            Map<String, JsonNode> fields,
            boolean adding,
            String id,
            Map<String, String> taken,
            String client) {
        List<Problem> problems = new ArrayList<>();
        fields.forEach((name, value) -> object.field(name)
                .ifPresentOrElse(
                        field -> check(object, field, value, fields, id, taken, client)
                                .ifPresent(problems::add),
                        () -> problems.add(new Problem(name, "unknown_field", "no such field"))));
        if (adding) {
            object.fields().stream()
                    .filter(field ->
                            field.required() && present(fields, field.name()).isEmpty())
                    .forEach(
                            field -> problems.add(new Problem(field.name(), "required", field.title() + " is needed")));
        }
        return problems;
    }

    private Optional<Problem> check(
            CatalogueObject object,
            CatalogueField field,
            JsonNode value,
            Map<String, JsonNode> fields,
            String id,
            Map<String, String> taken,
            String client) {
        if (field.readOnly()) {
            return Optional.of(new Problem(field.name(), "read_only", field.title() + " is computed"));
        }
        if (!field.writable() && !client.startsWith("desk:")) {
            return Optional.of(new Problem(field.name(), "not_permitted", "this login may not write " + field.title()));
        }
        if (value.isNull() || value.isString() && value.asString().isEmpty()) {
            return field.required()
                    ? Optional.of(new Problem(field.name(), "required", field.title() + " cannot be emptied"))
                    : Optional.empty();
        }
        Optional<Problem> bad = field.check(value).or(() -> missing(field, value));
        if (bad.isPresent() || !field.unique()) {
            return bad;
        }
        Optional<String> holder = store.holder(object.name(), field.name(), value)
                .or(() -> Optional.ofNullable(taken.get(slot(field, fields))));
        return holder.filter(other -> !other.equals(id))
                .map(other -> new Problem(
                        field.name(), "not_unique", "record " + other + " has this " + field.title() + " already"));
    }

    /** A field that names a record of another object takes only one that is there. */
    private Optional<Problem> missing(CatalogueField field, JsonNode value) {
        Stream<String> ids =
                value.isArray() ? value.valueStream().map(one -> one.asString("")) : Stream.of(value.asString(""));
        return field.refersTo()
                .flatMap(other -> ids.filter(id -> store.byId(other, id).isEmpty())
                        .findFirst()
                        .map(id -> new Problem(field.name(), "no_such_record", "there is no " + other + " " + id)));
    }

    private static String slot(CatalogueField field, Map<String, JsonNode> fields) {
        return field.name() + "=" + CatalogueField.comparable(fields.get(field.name()));
    }

    private static Optional<JsonNode> present(Map<String, JsonNode> fields, String name) {
        return Optional.ofNullable(fields.get(name)).filter(value -> !value.isNull());
    }

    private static boolean same(PurserRecord there, Map<String, JsonNode> fields) {
        return fields.entrySet().stream().allMatch(entry -> there.value(entry.getKey())
                .map(CatalogueField::comparable)
                .equals(present(fields, entry.getKey()).map(CatalogueField::comparable)));
    }

    private static Result refused(int position, Problem problem) {
        return new Result(position, "refused", "", List.of(problem));
    }
}
