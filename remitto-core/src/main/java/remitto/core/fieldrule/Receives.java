package remitto.core.fieldrule;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Optional;

/** Where the value of a field rule comes from. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Receives.FromColumn.class, name = "column"),
    @JsonSubTypes.Type(value = Receives.Fixed.class, name = "fixed"),
    @JsonSubTypes.Type(value = Receives.Computed.class, name = "expression"),
    @JsonSubTypes.Type(value = Receives.RecordOf.class, name = "record"),
    @JsonSubTypes.Type(value = Receives.RecordsOf.class, name = "records"),
    @JsonSubTypes.Type(value = Receives.FromDataset.class, name = "dataset"),
    @JsonSubTypes.Type(value = Receives.FoundThere.class, name = "there")
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

    /**
     * The ids of several records that another route bound, such as the companies of a contact. Waits while any of
     * them is held or not sent yet.
     *
     * @param separator between the keys in the column
     */
    record RecordsOf(long route, String column, String separator) implements Receives {}

    /** What is found in another dataset by the value of a column. */
    record FromDataset(DatasetLookUp where, String column, IfMany ifMany) implements Receives {}

    /**
     * The destination's own id of the record of an object that holds the value of a column in a field, such as the id
     * of a company by its number.
     */
    record FoundThere(String object, String by, String column, IfMany ifMany) implements Receives {}

    /** What happens when more than one is found. */
    enum IfMany {
        UNUSABLE,
        FIRST,
        LIST
    }

    /** The column whose value decides what is received, where there is one. */
    default Optional<String> readColumn() {
        if (this instanceof FromColumn from) {
            return Optional.of(from.column());
        }
        if (this instanceof RecordOf record) {
            return Optional.of(record.column());
        }
        if (this instanceof RecordsOf records) {
            return Optional.of(records.column());
        }
        if (this instanceof FromDataset found) {
            return Optional.of(found.column());
        }
        return this instanceof FoundThere there ? Optional.of(there.column()) : Optional.empty();
    }
}
