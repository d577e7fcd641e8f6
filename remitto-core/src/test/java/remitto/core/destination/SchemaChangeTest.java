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
}
