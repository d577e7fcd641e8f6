package remitto.core.columnprofile;

import java.util.List;
import java.util.Optional;

/** What all columns of a dataset held when it was read from end to end. */
public record ReadProfile(long rows, List<ColumnProfile> columns) {
    public ReadProfile {
        columns = List.copyOf(columns);
    }

    public Optional<ColumnProfile> column(String name) {
        return columns.stream().filter(one -> one.name().equals(name)).findFirst();
    }
}
