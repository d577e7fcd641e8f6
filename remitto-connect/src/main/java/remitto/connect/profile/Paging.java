package remitto.connect.profile;

import java.net.URI;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import tools.jackson.databind.JsonNode;

/** How a list goes on after a page. */
final class Paging {
    /** One link of a Link header (RFC 8288): its target, and its parameters. */
    private static final Pattern LINK =
            Pattern.compile("<([^>]*)>((?:\\s*;\\s*[^\\s=;,]+(?:=(?:\"[^\"]*\"|[^;,\"]*))?)*)");

    private static final Pattern NEXT = Pattern.compile(
            ";\\s*rel\\s*=\\s*(?:\"(?:[^\"]*\\s)?next(?:\\s[^\"]*)?\"|next\\b)", Pattern.CASE_INSENSITIVE);

    private final Profile.Paging how;

    Paging(Profile.Listing list) {
        this.how = list.paging().orElseGet(() -> Profile.Paging.byCursor(list.next()));
    }

    /** What {@code {cursor}} stands for on the first page. */
    String first() {
        return switch (how.kind()) {
            case OFFSET -> "0";
            case PAGE -> Integer.toString(firstPage());
            case CURSOR, LINK -> "";
        };
    }

    int size() {
        return how.size().orElse(100);
    }

    /** True when a cursor is the address of the page itself. */
    boolean addressed() {
        return how.kind() == Profile.Paging.Kind.LINK;
    }

    private int firstPage() {
        return how.first().orElse(1);
    }

    /**
     * The cursor of the page that follows; empty after the last.
     *
     * @param cursor of this page
     * @param here its address
     * @param items how many it held
     */
    Optional<String> after(Reply reply, String cursor, URI here, int items) {
        return switch (how.kind()) {
            case CURSOR ->
                how.next().map(place -> reply.body().at(place).asString("")).filter(next -> !next.isEmpty());
            case OFFSET -> counted(reply, Long.parseLong(cursor), items);
            case PAGE -> numbered(reply, Long.parseLong(cursor), items);
            case LINK -> linked(reply.headers().getOrDefault("link", List.of()), here);
        };
    }

    private Optional<String> counted(Reply reply, long offset, int items) {
        long read = offset + items;
        return items > 0 && read < total(reply).orElse(items < size() ? read : Long.MAX_VALUE)
                ? Optional.of(Long.toString(read))
                : Optional.empty();
    }

    private Optional<String> numbered(Reply reply, long page, int items) {
        long read = (page - firstPage() + 1) * size();
        return items > 0 && read < total(reply).orElse(items < size() ? read : Long.MAX_VALUE)
                ? Optional.of(Long.toString(page + 1))
                : Optional.empty();
    }

    private Optional<Long> total(Reply reply) {
        return how.total()
                .map(place -> reply.body().at(place))
                .filter(JsonNode::isNumber)
                .map(JsonNode::asLong);
    }

    private static Optional<String> linked(List<String> headers, URI here) {
        for (String header : headers) {
            Matcher link = LINK.matcher(header);
            while (link.find()) {
                if (NEXT.matcher(link.group(2)).find()) {
                    return Optional.of(sameOrigin(here, link.group(1)));
                }
            }
        }
        return Optional.empty();
    }

    /** A page elsewhere would get our sign-in. */
    private static String sameOrigin(URI here, String target) {
        URI next = here.resolve(target);
        if (!here.getScheme().equals(next.getScheme()) || !here.getAuthority().equals(next.getAuthority())) {
            throw new DestinationProblem(
                    Kind.UNREADABLE,
                    "The next page is said to be at " + next + ", which is another place than " + here);
        }
        return next.toString();
    }
}
