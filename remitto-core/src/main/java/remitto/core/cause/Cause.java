package remitto.core.cause;

import java.util.Optional;

/**
 * Why something is as it is decided.
 *
 * @param kind absent when the decision speaks for itself
 * @param field it is about; blank where the kind is about none
 */
public record Cause(Optional<CauseKind> kind, String field) {
    /** No cause: the decision speaks for itself. */
    public static final Cause NONE = new Cause(Optional.empty(), "");

    private static final char BETWEEN = ':';

    public Cause {
        if (field.isBlank() == kind.filter(CauseKind::isAboutAField).isPresent()) {
            throw new IllegalArgumentException(kind + " and field \"" + field + "\" do not belong together");
        }
    }

    public static Cause of(CauseKind kind) {
        return new Cause(Optional.of(kind), "");
    }

    /** A cause that is about a field. */
    public static Cause about(CauseKind kind, String field) {
        return new Cause(Optional.of(kind), field);
    }

    public boolean is(CauseKind wanted) {
        return kind.isPresent() && kind.get() == wanted;
    }

    public boolean isNone() {
        return kind.isEmpty();
    }

    /** In words, for a group of records; blank for none. */
    public String title() {
        return kind.map(one -> one.title(field)).orElse("");
    }

    /** As it is stored and asked for: its code, with the field behind a colon; blank for none. */
    public String spelled() {
        return kind.map(one -> one.isAboutAField() ? one.code() + BETWEEN + field : one.code())
                .orElse("");
    }

    /**
     * Reads what {@link #spelled} wrote.
     *
     * @throws IllegalArgumentException if there is no such cause
     */
    public static Cause read(String spelled) {
        if (spelled.isEmpty()) {
            return NONE;
        }
        int at = spelled.indexOf(BETWEEN);
        String code = at < 0 ? spelled : spelled.substring(0, at);
        CauseKind kind = CauseKind.of(code)
                .orElseThrow(() -> new IllegalArgumentException("there is no cause \"" + spelled + "\""));
        return new Cause(Optional.of(kind), at < 0 ? "" : spelled.substring(at + 1));
    }
}
