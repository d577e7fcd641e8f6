package remitto.core.destination;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Something a destination describes differently than before.
 *
 * @param value the choice that is gone, or the length that is left; blank for other kinds
 * @param text what it is, in words that name the field
 */
public record SchemaChange(Kind kind, String field, String value, String text) {

    /** What became of the field. */
    public enum Kind {
        GONE,
        NEW,
        OTHER_TYPE,
        SHRUNK,
        REQUIRED,
        CHOICE_GONE,
        NOT_WRITABLE;

        /** True when values that were taken before may be refused now. */
        public boolean harms() {
            return this != NEW;
        }
    }

    /** True when the object is described so that this no longer holds; of another type that cannot be told. */
    public boolean isOver(ObjectDescription now) {
        Optional<Field> described = now.field(field);
        return switch (kind) {
            case NEW, OTHER_TYPE -> false;
            case GONE -> described.isPresent();
            case SHRUNK ->
                described
                        .filter(one -> one.maxLength().orElse(Integer.MAX_VALUE) > Integer.parseInt(value))
                        .isPresent();
            case REQUIRED -> described.filter(one -> !one.required()).isPresent();
            case NOT_WRITABLE -> described.filter(Field::mayBeWritten).isPresent();
            case CHOICE_GONE ->
                described
                        .filter(one ->
                                one.kind() != FieldKind.CHOICE || one.choices().contains(value))
                        .isPresent();
        };
    }

    /** True when this tells the same of the field as another, in place of it. */
    public boolean replaces(SchemaChange other) {
        return kind == other.kind
                && field.equals(other.field)
                && (kind != Kind.CHOICE_GONE || value.equals(other.value));
    }

    /** Every difference that matters to somebody who writes, in the order of the fields. */
    public static List<SchemaChange> between(ObjectDescription before, ObjectDescription now) {
        List<SchemaChange> changes = new ArrayList<>();
        for (Field old : before.fields()) {
            Optional<Field> field = now.field(old.name());
            if (field.isEmpty()) {
                changes.add(new SchemaChange(Kind.GONE, old.name(), "", old.name() + " no longer exists"));
            } else {
                compare(old, field.get(), changes);
            }
        }
        now.fields().stream()
                .filter(field -> before.field(field.name()).isEmpty())
                .forEach(field -> changes.add(new SchemaChange(
                        Kind.NEW,
                        field.name(),
                        "",
                        field.name() + " is new" + (field.required() ? " and required" : ""))));
        return changes;
    }

    private static void compare(Field old, Field now, List<SchemaChange> changes) {
        String name = now.name();
        if (old.kind() != now.kind()) {
            changes.add(new SchemaChange(
                    Kind.OTHER_TYPE, name, "", name + " takes " + word(now.kind()) + " now, was " + word(old.kind())));
        }
        int length = now.maxLength().orElse(Integer.MAX_VALUE);
        if (length < old.maxLength().orElse(Integer.MAX_VALUE)) {
            changes.add(new SchemaChange(
                    Kind.SHRUNK,
                    name,
                    Integer.toString(length),
                    name + " takes " + length + " characters now, was "
                            + (old.maxLength().isPresent() ? old.maxLength().getAsInt() : "not limited")));
        }
        if (now.required() && !old.required()) {
            changes.add(new SchemaChange(Kind.REQUIRED, name, "", name + " is required now"));
        }
        if (old.mayBeWritten() && !now.mayBeWritten()) {
            changes.add(
                    new SchemaChange(Kind.NOT_WRITABLE, name, "", name + " can no longer be written by this login"));
        }
        if (now.kind() == FieldKind.CHOICE) {
            old.choices().stream()
                    .filter(choice -> !now.choices().contains(choice))
                    .forEach(choice -> changes.add(new SchemaChange(
                            Kind.CHOICE_GONE, name, choice, name + " no longer takes \"" + choice + "\"")));
        }
    }

    private static String word(FieldKind kind) {
        return kind.name().toLowerCase(java.util.Locale.ROOT);
    }
}
