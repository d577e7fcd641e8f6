package remitto.connect.destination;

import remitto.connect.destination.Destination.Batch;
import remitto.connect.destination.Destination.CallOutcome;

/**
 * A destination that takes records. Each call is made once and says what came of it, since only the caller knows what to do about an
 * outcome that is not known. Which of the three an object takes is in its description.
 */
public interface Writing {
    /** Adds records; one that is there already is refused by the tool. */
    CallOutcome add(Batch batch);

    /** Changes records by the tool's own id; one that is not there is refused by the tool. */
    CallOutcome update(Batch batch);

    /** Removes records by the tool's own id. */
    CallOutcome remove(Batch batch);
}
