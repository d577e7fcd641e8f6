package remitto.core.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;

class SchemaChangeTest {
    private static Field field(String name, FieldKind kind, boolean required, int length, String... choices) {
        return new Field(
                name,
                name,
                kind,
                required,
                false,
                false,
                true,
                false,
                length == 0 ? OptionalInt.empty() : OptionalInt.of(length),
                List.of(choices));
    }

    private static List<String> changes(List<Field> before, List<Field> now) {
        return SchemaChange.between(
                        ObjectDescription.of("contact", "Contact", true, before),
                        ObjectDescription.of("contact", "Contact", true, now))
                .stream()
                .map(change -> change.kind() + ": " + change.text())
                .toList();
    }

    @Test
    void saysWhatBecameOfEachField() {
        assertThat(changes(
                        List.of(
                                field("gone", FieldKind.TEXT, false, 0),
                                field("port", FieldKind.TEXT, false, 60),
                                field("note", FieldKind.TEXT, false, 0),
                                field("status", FieldKind.CHOICE, false, 0, "new", "old"),
                                field("score", FieldKind.INTEGER, false, 0)),
                        List.of(
                                field("port", FieldKind.TEXT, true, 40),
                                field("note", FieldKind.TEXT, false, 10),
                                field("status", FieldKind.CHOICE, false, 0, "new"),
                                field("score", FieldKind.TEXT, false, 0),
                                field("fresh", FieldKind.TEXT, true, 0))))
                .containsExactly(
                        "GONE: gone no longer exists",
                        "SHRUNK: port takes 40 characters now, was 60",
                        "REQUIRED: port is required now",
                        "SHRUNK: note takes 10 characters now, was not limited",
                        "CHOICE_GONE: status no longer takes \"old\"",
                        "OTHER_TYPE: score takes text now, was integer",
                        "NEW: fresh is new and required");
    }

    @Test
    void moreRoomIsNoChangeToAnybodyWhoWrites() {
        assertThat(changes(
                        List.of(field("port", FieldKind.TEXT, true, 40)),
                        List.of(field("port", FieldKind.TEXT, false, 60))))
                .isEmpty();
    }

    private static ObjectDescription described(Field... fields) {
        return ObjectDescription.of("contact", "Contact", true, List.of(fields));
    }

    @Test
    void whatWasChangedThereAndBackIsOver() {
        ObjectDescription before = described(
                field("gone", FieldKind.TEXT, false, 0),
                field("port", FieldKind.TEXT, false, 60),
                field("note", FieldKind.TEXT, false, 0),
                field("status", FieldKind.CHOICE, false, 0, "new", "old"));
        ObjectDescription now = described(
                field("port", FieldKind.TEXT, false, 40),
                field("note", FieldKind.TEXT, true, 0),
                field("status", FieldKind.CHOICE, false, 0, "new"));
        List<SchemaChange> changes = SchemaChange.between(before, now);
        assertThat(changes).hasSize(4).noneMatch(one -> one.isOver(now)).allMatch(one -> one.isOver(before));
    }

    @Test
    void aFieldThatIsGoneMeanwhileSettlesNothing() {
        SchemaChange shrunk = new SchemaChange(SchemaChange.Kind.SHRUNK, "port", "40", "");
        assertThat(shrunk.isOver(described())).isFalse();
        assertThat(shrunk.isOver(described(field("port", FieldKind.TEXT, false, 41))))
                .isTrue();
        assertThat(shrunk.isOver(described(field("port", FieldKind.TEXT, false, 40))))
                .isFalse();
        SchemaChange type = new SchemaChange(SchemaChange.Kind.OTHER_TYPE, "port", "", "");
        assertThat(type.isOver(described(field("port", FieldKind.TEXT, false, 0))))
                .isFalse();
    }

    @Test
    void oneCauseIsToldOnce() {
        SchemaChange shrunk = new SchemaChange(SchemaChange.Kind.SHRUNK, "port", "40", "");
        assertThat(new SchemaChange(SchemaChange.Kind.SHRUNK, "port", "20", "").replaces(shrunk))
                .isTrue();
        assertThat(new SchemaChange(SchemaChange.Kind.SHRUNK, "name", "20", "").replaces(shrunk))
                .isFalse();
        SchemaChange choice = new SchemaChange(SchemaChange.Kind.CHOICE_GONE, "status", "old", "");
        assertThat(new SchemaChange(SchemaChange.Kind.CHOICE_GONE, "status", "new", "").replaces(choice))
                .isFalse();
    }
}
