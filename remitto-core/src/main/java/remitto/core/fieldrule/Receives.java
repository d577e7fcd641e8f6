package remitto.core.fieldrule;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;

/** Where the value of a field rule comes from. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Receives.FromColumn.class, name = "column"),
    @JsonSubTypes.Type(value = Receives.Fixed.class, name = "fixed"),
    @JsonSubTypes.Type(value = Receives.Computed.class, name = "expression"),
    @JsonSubTypes.Type(value = Receives.RecordOf.class, name = "record")
})
public sealed interface Receives {
    /** The dataset column of that name. */
    record FromColumn(String column) implements Receives {}

    /** The same text for every record. */
    record Fixed(String text) implements Receives {}

    /** A CEL expression over the dataset's columns. */
    record Computed(String expression) implements Receives {}

    /**
     * The destination's own id of the record that another route bound to the key in a column, such as the company
     * of a contact. Waits while that record is held or not sent yet.
     */
    record RecordOf(long route, String column) implements Receives {}
}
