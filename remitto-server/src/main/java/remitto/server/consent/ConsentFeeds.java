package remitto.server.consent;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.Listing;
import remitto.core.consent.AddressHash;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;
import remitto.server.destination.Connections;
import remitto.server.destination.Destinations;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.rights.mark.ErasedMarks;
import remitto.server.rights.mark.Marks;

/**
 * Brings back what people said at a destination themselves. A no there is a no here, of the address; whoever says yes again
 * there after a no has said so with evidence.
 */
@Component
public class ConsentFeeds {
    private static final Logger LOG = LoggerFactory.getLogger(ConsentFeeds.class);
    private static final String ORIGIN = "DESTINATION";

    private final Consents consents;
    private final Destinations destinations;
    private final Connections connections;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final ErasedMarks erased;

    ConsentFeeds(
            Consents consents,
            Destinations destinations,
            Connections connections,
            JdbcClient jdbc,
            Clock clock,
            ErasedMarks erased) {
        this.consents = consents;
        this.destinations = destinations;
        this.connections = connections;
        this.jdbc = jdbc;
        this.clock = clock;
        this.erased = erased;
    }

    /**
     * A destination that consent is read back from.
     *
     * @param people whose no stands there, by the latest reading
     * @param problem why that failed; blank when it went well
     */
    record ConsentFeed(
            long destinationId,
            String destination,
            String purpose,
            String channel,
            Optional<Instant> readAt,
            long people,
            String problem) {}

    /** A destination whose profile says where people's own word stands. */
    record FeedChoice(long destinationId, String destination) {}

    List<ConsentFeed> all() {
        return jdbc.sql(
                        "select f.*, d.name from consent_feed f join destination d on d.id = f.destination_id order by d.name")
                .query((row, number) -> new ConsentFeed(
                        row.getLong("destination_id"),
                        row.getString("name"),
                        row.getString("purpose"),
                        row.getString("channel"),
                        Rows.optionalTime(row, "read_at"),
                        row.getLong("people"),
                        row.getString("problem")))
                .list();
    }

    /** Destinations that could be a feed, whether they are or not. */
    List<FeedChoice> choices() {
        return destinations.all().stream()
                .filter(one -> answers(one.id()))
                .map(one -> new FeedChoice(one.id(), one.name()))
                .toList();
    }

    /** A destination that cannot be opened now is none to choose. */
    private boolean answers(long destination) {
        try {
            return connections.open(destination).destination().answers().isPresent();
        } catch (DestinationProblem | Problem e) {
            return false;
        }
    }

    void set(long destination, String purpose, String channel) {
        if (connections.open(destination).destination().answers().isEmpty()) {
            throw Problem.invalid("The profile of this destination does not describe where consent is kept.");
        }
        if (purpose.isBlank() || channel.isBlank()) {
            throw Problem.invalid("Enter the purpose and the channel.");
        }
        jdbc.sql("""
                        insert into consent_feed (destination_id, purpose, channel) values (?, ?, ?)
                        on conflict (destination_id) do update set purpose = excluded.purpose, channel = excluded.channel
                        """).params(destination, purpose, channel).update();
    }

    /**
     * Reads all feeds; what goes wrong is written down with the feed, and what was known stays.
     *
     * @return whether all went well
     */
    public boolean read() {
        boolean good = true;
        for (ConsentFeed feed : all()) {
            String problem = "";
            long people = feed.people();
            try {
                people = read(feed);
            } catch (DestinationProblem | Problem e) {
                problem = String.valueOf(e.getMessage());
                LOG.warn("What people said at {} could not be read: {}", feed.destination(), problem);
                good = false;
            }
            jdbc.sql("update consent_feed set read_at = ?, people = ?, problem = ? where destination_id = ?")
                    .params(Rows.time(clock.instant()), people, problem, feed.destinationId())
                    .update();
        }
        return good;
    }

    private long read(ConsentFeed feed) {
        Connections.Connection connection = connections.open(feed.destinationId());
        Destination destination = connection.destination();
        Destination.Answers where = destination.answers().orElseThrow();
        ObjectDescription object = destination.describe(where.object());
        Map<String, Boolean> known = lastSaid(feed);
        Instant now = clock.instant();
        Marks marks = erased.now();
        long noes = 0;
        Optional<String> cursor = Optional.empty();
        do {
            Listing.Page page = connection.listing().list(object, Optional.empty(), cursor);
            for (Destination.RemoteRecord record : page.records()) {
                String said = text(record, where.field());
                Set<String> hashes = AddressHash.meanings(text(record, where.address()), "");
                boolean no = where.no().contains(said);
                noes += no ? 1 : 0;
                // A no counts for everything that an address may mean; a yes only where it is certain whose it is.
                boolean counts = no || hashes.size() == 1;
                for (String hash : counts && marks.ofAddresses(hashes).isEmpty() ? hashes : Set.<String>of()) {
                    Optional<Boolean> before = Optional.ofNullable(known.get(hash));
                    boolean news = no ? !before.equals(Optional.of(false)) : before.equals(Optional.of(false));
                    if (news) {
                        take(
                                feed,
                                hash,
                                !no,
                                object.field(where.field())
                                                .map(one -> one.title())
                                                .orElse(where.field()) + " there: " + said,
                                now);
                    }
                }
            }
            cursor = page.next();
        } while (cursor.isPresent());
        return noes;
    }

    private void take(ConsentFeed feed, String hash, boolean yes, String evidence, Instant now) {
        consents.add(
                new Consents.Whom(Optional.empty(), Optional.of(hash)),
                new Consents.Said(feed.purpose(), feed.channel(), yes, now, Optional.empty(), evidence),
                new Consents.Origin(ORIGIN, feed.destination()));
    }

    private static String text(Destination.RemoteRecord record, String field) {
        return record.fields().getOrDefault(field, Value.EMPTY).display();
    }

    private Map<String, Boolean> lastSaid(ConsentFeed feed) {
        Map<String, Boolean> last = new HashMap<>();
        jdbc.sql("""
                        select distinct on (address_hash) address_hash, answer from consent_record
                        where address_hash is not null and purpose = ? and channel = ? and origin = ? and origin_name = ?
                        order by address_hash, id desc
                        """)
                .params(feed.purpose(), feed.channel(), ORIGIN, feed.destination())
                .query(row -> {
                    last.put(
                            row.getString("address_hash"),
                            row.getString("answer").equals("YES"));
                });
        return last;
    }
}
