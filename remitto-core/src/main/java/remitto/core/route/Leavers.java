package remitto.core.route;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.List;

/**
 * What happens there to a record that this route added or adopted and that left the dataset. Only a complete read
 * makes leavers; a row that is held, failed or unread has not left.
 */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Leavers.Stay.class, name = "stay"),
    @JsonSubTypes.Type(value = Leavers.SetFields.class, name = "set"),
    @JsonSubTypes.Type(value = Leavers.ClearFields.class, name = "clear"),
    @JsonSubTypes.Type(value = Leavers.TakeOff.class, name = "take-off"),
    @JsonSubTypes.Type(value = Leavers.Delete.class, name = "delete")
})
public sealed interface Leavers {
    /** It stays there as it is. */
    record Stay() implements Leavers {}

    /** Some fields receive fixed values. */
    record SetFields(List<FieldText> fields) implements Leavers {
        public SetFields {
            fields = List.copyOf(fields);
        }
    }

    /** Some fields are emptied. */
    record ClearFields(List<String> fields) implements Leavers {
        public ClearFields {
            fields = List.copyOf(fields);
        }
    }

    /** The membership ends; the record itself is not touched. */
    record TakeOff() implements Leavers {}

    /** The record is deleted there. */
    record Delete() implements Leavers {}

    /** A field and the text it receives. */
    record FieldText(String field, String text) {}

    /** True when a record or a membership goes. */
    default boolean removes() {
        return this instanceof TakeOff || this instanceof Delete;
    }
}
