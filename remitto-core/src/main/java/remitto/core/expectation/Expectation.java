package remitto.core.expectation;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.Optional;

/**
 * One thing that is expected of a dataset.
 *
 * @param column whose cells it is about; absent where it is about the dataset as a whole
 * @param response what happens when it is not met
 */
public record Expectation(Optional<String> column, Demand demand, Response response) {
    /** A sentence without its full stop, such as "email is never empty". */
    @JsonIgnore
    public String sentence() {
        return column.orElse("the dataset") + " " + demand.words();
    }
}
