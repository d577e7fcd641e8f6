package remitto.core.cause;

import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/** The register of causes. A code is stored with lines and held records for as long as they are kept, so that none is ever given another meaning. */
public enum CauseKind {
    NO_KEY("no-key", Teller.SOURCE, Loss.NO_ADDRESS, "The key is empty"),
    DOUBLED_KEY("doubled-key", Teller.SOURCE, Loss.SHARED, "More than one row has the key", Remedy.TRY_AGAIN),
    /** The owner of the dataset expects something else of its rows; the field is a column of the dataset. */
    UNEXPECTED(
            "unexpected",
            Teller.SOURCE,
            Loss.NOT_ACCEPTED,
            "{field} does not meet an expectation of the dataset",
            Remedy.TRY_AGAIN),
    UNUSABLE(
            "unusable",
            Teller.ROUTE,
            Loss.NO_ADDRESS_IF_KEY,
            "{field} cannot be used, so the record is held",
            Remedy.TRY_AGAIN),
    EMPTY("empty", Teller.ROUTE, Loss.NO_ADDRESS_IF_KEY, "{field} is empty, so the record is held", Remedy.TRY_AGAIN),
    /** One value is held, and the rest of its record goes. */
    VALUE("value", Teller.ROUTE, Loss.NOT_ACCEPTED, "Value for {field} cannot be used", Remedy.TRY_AGAIN),
    /** Nothing is left to send of a record, since all of it that changed is held; each value has a cause of its own. */
    ONLY_HELD_VALUES("value-held", Teller.ROUTE, Loss.NOT_ACCEPTED, "All changed values are held", Remedy.TRY_AGAIN),

    BASIS("basis", Teller.ROUTE, Loss.NOT_ALLOWED, "May not be sent to"),
    ERASED("erased", Teller.ROUTE, Loss.NOT_ALLOWED, "Erased"),
    QUIET("quiet", Teller.ROUTE, Loss.NOT_ALLOWED, "Over the frequency cap"),
    /** Removed there, since the person said no. */
    CONSENT("consent", Teller.ROUTE, Loss.NOT_ALLOWED, "Opted out, so it is removed from the destination"),

    TWO_MATCHES(
            "two-matches", Teller.DESTINATION, Loss.SHARED, "Two records in the destination match", Remedy.TRY_AGAIN),
    CLAIMED("claimed", Teller.ROUTE, Loss.SHARED, "The matching record is bound to another row", Remedy.TRY_AGAIN),
    DELETED_THERE(
            "deleted-there", Teller.DESTINATION, Loss.NOT_ACCEPTED, "Deleted in the destination", Remedy.TRY_AGAIN),
    KEY_DIFFERS(
            "key-differs",
            Teller.DESTINATION,
            Loss.NOT_ACCEPTED,
            "The key in the destination differs",
            Remedy.TRY_AGAIN),
    NOT_THERE("not-there", Teller.ROUTE, Loss.NOT_ACCEPTED, "Not in the destination, and this route adds no records"),
    ALREADY_THERE(
            "already-there", Teller.ROUTE, Loss.NOT_ACCEPTED, "Already in the destination, and this route only adds"),
    THERE_BEFORE("there-before", Teller.ROUTE, Loss.NOT_ACCEPTED, "In the destination before this route"),

    LEFT("left", Teller.ROUTE, Loss.ELSEWHERE, "Left the dataset"),
    SHARED(
            "shared",
            Teller.ROUTE,
            Loss.ELSEWHERE,
            "Left the dataset, but another route keeps the record",
            Remedy.TRY_AGAIN),
    JOINED("joined", Teller.ROUTE, Loss.ELSEWHERE, "Merged into another record, which is sent", Remedy.TRY_AGAIN),
    LEAVER_UNCLEAR(
            "leaver-unclear", Teller.ROUTE, Loss.ELSEWHERE, "It may have left, or lost its key", Remedy.TRY_AGAIN),

    REFUSED("refused", Teller.DESTINATION, Loss.NOT_ACCEPTED, "Refused by the destination", Remedy.TRY_AGAIN),
    OUTCOME_UNKNOWN(
            "outcome-unknown",
            Teller.DESTINATION,
            Loss.NOT_ACCEPTED,
            "Outcome unknown: no answer came back",
            Remedy.SAY_WHETHER_IT_ARRIVED),

    UNDO("undo", Teller.ROUTE, Loss.NOT_ACCEPTED, "Undone"),
    UNDO_CANNOT("undo-cannot", Teller.DESTINATION, Loss.NOT_ACCEPTED, "The destination cannot undo it"),
    UNDO_CONSENT("undo-consent", Teller.ROUTE, Loss.NOT_ACCEPTED, "May not be sent to, so it is not restored");

    /** Who says that it is so. */
    public enum Teller {
        SOURCE,
        /** The rules of the route, and what is known of people. */
        ROUTE,
        DESTINATION
    }

    /** At which step of the reach ladder people are lost for it. */
    public enum Loss {
        NOT_ALLOWED,
        NO_ADDRESS,
        /** No address when it is about the field that people are matched by, otherwise not accepted. */
        NO_ADDRESS_IF_KEY,
        SHARED,
        NOT_ACCEPTED,
        /** At none: they are not in the audience any more. */
        ELSEWHERE
    }

    /** What a person may do about records that are held for it, beyond mending the cause. */
    public enum Remedy {
        TRY_AGAIN,
        SAY_WHETHER_IT_ARRIVED
    }

    private static final String FIELD = "{field}";

    private final String code;
    private final Teller teller;
    private final Loss loss;
    private final String title;
    private final Set<Remedy> remedies;

    CauseKind(String code, Teller teller, Loss loss, String title, Remedy... remedies) {
        this.code = code;
        this.teller = teller;
        this.loss = loss;
        this.title = title;
        this.remedies = Set.of(remedies);
    }

    /** Its stable name. */
    public String code() {
        return code;
    }

    public Teller teller() {
        return teller;
    }

    public Loss loss() {
        return loss;
    }

    public Set<Remedy> remedies() {
        return remedies;
    }

    /** Whether it is about one field, whose name belongs to it. */
    public boolean isAboutAField() {
        return title.contains(FIELD);
    }

    /** In words, for a group of records. */
    String title(String field) {
        return title.replace(FIELD, field);
    }

    /** The kind of a code; absent when there is none of that name. */
    public static Optional<CauseKind> of(String code) {
        return EnumSet.allOf(CauseKind.class).stream()
                .filter(one -> one.code.equals(code))
                .findFirst();
    }
}
