package remitto.server.people.person;

import java.util.List;
import remitto.server.platform.Personal;

/** Tells what routes keep of a person at destinations. */
public interface SentTo {
    /** How it is known that a record is the person's. */
    enum LinkedBy {
        /** The row has the key of one of the person's records. */
        KEY,
        /** What was sent carries an address of the person that nobody else has. */
        ADDRESS,
        /** Another route writes the same record in the destination, and its row is the person's. */
        SAME_RECORD
    }

    /**
     * The route and record that a person was sent as.
     *
     * @param key of the row that was sent, in the route's dataset
     * @param runId that wrote it last
     * @param linkedBy the surest way in which it is known to be the person's
     */
    record SentAs(
            long routeId,
            String route,
            long destinationId,
            String destination,
            String object,
            String remoteId,
            @Personal(Personal.Part.KEY) String key,
            long runId,
            LinkedBy linkedBy) {}

    /** A route whose rows cannot be linked to anybody. */
    record UnlinkedRoute(long routeId, String route, String destination, String object) {}

    List<SentAs> sent(long person);

    /** Routes with records in destinations whose dataset describes nobody, which sent no address, and whose records no other route writes. */
    List<UnlinkedRoute> unlinked();
}
