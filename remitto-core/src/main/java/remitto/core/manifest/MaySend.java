package remitto.core.manifest;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.route.Basis;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;

/**
 * Whether something may be sent to somebody, by what they said and what is known of them. Whoever prepares, sends, or takes back asks
 * here, so that none of them lets through what another would not.
 */
public final class MaySend {
    private MaySend() {}

    /** Whether what a person said decides about anything that the route sends. */
    public static boolean asksConsent(RouteSpec spec) {
        return spec.basis() instanceof Basis.Consent
                || spec.rules().stream().anyMatch(rule -> rule.consent().isPresent());
    }

    /** Whether anything of the record may not be sent. */
    public static boolean forbidsAnything(ShapedRecord record) {
        return !record.leftOut().isEmpty() || record.fields().stream().anyMatch(MaySend::isForbidden);
    }

    /** A value that needs a consent which was not given, whether the person said no or was never asked. */
    private static boolean isForbidden(ShapedField field) {
        return field.said().filter(said -> said != FieldConsent.Said.YES).isPresent();
    }

    /**
     * Why a line may not go.
     *
     * @param fields of the line; only values that are written count, since to clear a field tells nobody anything
     * @param now the record as it is by now
     * @return in words; empty when it may
     */
    public static Optional<String> against(Collection<FieldDecision> fields, ShapedRecord now) {
        if (!now.leftOut().isEmpty()) {
            return Optional.of(now.leftOut());
        }
        Set<String> written = written(fields);
        return now.fields().stream()
                .filter(field -> written.contains(field.field().name()))
                .filter(MaySend::isForbidden)
                .findFirst()
                .map(field -> "No consent to what " + field.field().name() + " receives");
    }

    /**
     * The same of a record that is in the dataset no more: where consent decides, nobody can say that it is there.
     *
     * @return in words; empty when it may go
     */
    public static Optional<String> againstAbsent(Collection<FieldDecision> fields, RouteSpec spec) {
        if (spec.basis() instanceof Basis.Consent consent) {
            return Optional.of(unsaid(consent.purpose()));
        }
        Set<String> written = written(fields);
        return spec.rules().stream()
                .filter(rule -> written.contains(rule.field()))
                .flatMap(rule -> rule.consent().stream())
                .findFirst()
                .map(consent -> unsaid(consent.purpose()));
    }

    private static String unsaid(String purpose) {
        return "No longer in the dataset, so consent is unknown for " + purpose;
    }

    private static Set<String> written(Collection<FieldDecision> fields) {
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN
                        && !field.fresh().isEmpty())
                .map(FieldDecision::field)
                .collect(Collectors.toSet());
    }

    /** Whether a no that somebody stated to a field is carried out; that passes every other control. */
    public static boolean takesBack(ShapedRecord record, List<FieldDecision> fields) {
        return record.fields().stream()
                .filter(field ->
                        field.said().filter(FieldConsent.Said.NO::equals).isPresent())
                .anyMatch(field -> fields.stream()
                        .anyMatch(one -> one.outcome() == FieldOutcome.WRITTEN
                                && one.field().equals(field.field().name())));
    }

    /** The same of a line that is planned, of which is known what it clears. */
    public static boolean takesBack(RouteSpec spec, List<FieldDecision> fields) {
        return fields.stream()
                .filter(field ->
                        field.outcome() == FieldOutcome.WRITTEN && field.fresh().isEmpty())
                .anyMatch(cleared -> spec.rules().stream()
                        .anyMatch(rule -> rule.field().equals(cleared.field())
                                && rule.consent().isPresent()));
    }
}
