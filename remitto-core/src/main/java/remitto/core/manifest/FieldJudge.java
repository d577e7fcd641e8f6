package remitto.core.manifest;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Timing;
import remitto.core.fieldrule.Written;
import remitto.core.route.ShapedField;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/**
 * What becomes of one field of a record that is added or updated. What a rule says is asked in one order: may it be
 * written at all, does the person allow it, is there a value, is it there already, was it taken back, does the
 * destination or a route that comes first decide, was it edited there, and last whether the time has come.
 */
final class FieldJudge {
    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("d MMM HH:mm 'UTC'", Locale.ENGLISH).withZone(ZoneOffset.UTC);

    private FieldJudge() {}

    /** @param at when it was seen that the record is not there */
    static FieldDecision onAdd(ShapedField shaped, Instant at) {
        Outcome outcome = new Outcome(shaped, Value.MISSING);
        if (shaped.shaped() instanceof Shaped.Unusable unusable) {
            return outcome.unusable(unusable);
        }
        if (shaped.rule().written() == Written.NEVER) {
            return outcome.kept("never written");
        }
        if (refused(shaped).isPresent()) {
            return outcome.kept(refused(shaped).get());
        }
        if (outcome.fresh().isEmpty()) {
            return outcome.kept(leftAsItIs(shaped));
        }
        // A record cannot be made without what it must have, so that no timing holds that back.
        return shaped.field().required() || shaped.field().unique()
                ? outcome.written("")
                : outcome.timed(at, FieldPast.UNKNOWN, "");
    }

    static FieldDecision onUpdate(ShapedField shaped, MatchResult.Matched there) {
        FieldDecision decision = decide(shaped, there);
        return decision.over(there.writtenBy().getOrDefault(decision.field(), ""));
    }

    private static FieldDecision decide(ShapedField shaped, MatchResult.Matched there) {
        FieldRule rule = shaped.rule();
        String name = shaped.field().name();
        Value old = there.live(name);
        Outcome outcome = new Outcome(shaped, old);
        if (refused(shaped).isPresent()) {
            return withoutConsent(shaped, there, outcome);
        }
        if (shaped.shaped() instanceof Shaped.Unusable unusable) {
            return outcome.unusable(unusable);
        }
        Value fresh = outcome.fresh();
        if (rule.written() == Written.NEVER) {
            return outcome.kept("never written");
        }
        if (fresh.isEmpty()
                && shaped.emptiness()
                        .filter(one -> one.choice() == IfEmpty.CLEAR)
                        .isEmpty()) {
            return outcome.kept(leftAsItIs(shaped));
        }
        if (Judge.same(fresh, old)) {
            return outcome.same();
        }
        if (shaped.field().theirs().contains(old.display())) {
            return outcome.kept("kept: \"" + old.display()
                    + "\" is the person's own choice in the destination, which no route reverts");
        }
        if (there.undone().containsKey(name) && Judge.same(there.undone().get(name), fresh)) {
            return outcome.kept(
                    "not written again until its rule or source value changes, because it was undone or the destination's value was kept");
        }
        if (there.leftTo().containsKey(name)) {
            return outcome.kept("kept: route " + there.leftTo().get(name) + " has priority for this field and wrote it")
                    .until(FieldDecision.OTHER_LETS_GO);
        }
        if (rule.written() == Written.WHEN_CREATING) {
            return outcome.kept("written only when creating");
        }
        if (rule.written() == Written.ONLY_IF_EMPTY_THERE && !old.isEmpty()) {
            return outcome.kept("not empty in the destination");
        }
        if (rule.written() == Written.DESTINATION_DECIDES
                && (!old.isEmpty() || there.known().containsKey(name))) {
            return outcome.kept("the destination decides");
        }
        return competing(shaped, there, outcome);
    }

    private static FieldDecision competing(ShapedField shaped, MatchResult.Matched there, Outcome outcome) {
        FieldRule rule = shaped.rule();
        String name = shaped.field().name();
        Value old = there.live(name);
        FieldPast past = there.past(name);
        boolean known = there.known().containsKey(name);
        boolean edited = known && !Judge.same(there.known().get(name), old);
        if (rule.written() == Written.IF_NEWER && (edited || !known && !old.isEmpty())) {
            boolean ours = known && Judge.same(there.known().get(name), outcome.fresh());
            Optional<String> why = whyNotNewer(shaped, ours, past);
            return why.map(outcome::kept).orElseGet(() -> outcome.timed(there.readAt(), past, newer(shaped, past)));
        }
        if (edited && rule.onDrift() == OnDrift.KEEP_THEIRS) {
            return outcome.kept("kept: edited in the destination" + on(past));
        }
        if (edited && rule.onDrift() == OnDrift.HOLD_VALUE) {
            return outcome.held(name + ": edited in the destination" + on(past) + " to \"" + old.display() + "\"");
        }
        return outcome.timed(there.readAt(), past, edited ? "overwrites an edit in the destination" + on(past) : "");
    }

    /**
     * @param ours the source value is the one that we wrote before the edit, so that it appeared before it
     * @return why theirs stands; empty when the source's value is newer
     */
    private static Optional<String> whyNotNewer(ShapedField shaped, boolean ours, FieldPast past) {
        if (ours) {
            return Optional.of("kept: edited in the destination" + on(past) + ", after this value was written");
        }
        Optional<Instant> there = past.stamp().map(FieldPast.Stamp::at);
        if (there.isEmpty() || shaped.changedAt().isEmpty()) {
            return Optional.of("kept: unknown when "
                    + (there.isEmpty() ? "the destination's value" : "the source's value") + " appeared");
        }
        Duration skew = Duration.ofSeconds(
                shaped.rule().newer().map(newer -> newer.skewSeconds()).orElse(0));
        return shaped.changedAt().get().isAfter(there.get().plus(skew))
                ? Optional.empty()
                : Optional.of("kept: the destination's value is newer, from " + TIME.format(there.get()) + " against "
                        + TIME.format(shaped.changedAt().get()));
    }

    private static String newer(ShapedField shaped, FieldPast past) {
        return "newer, of " + TIME.format(shaped.changedAt().orElseThrow()) + " against "
                + TIME.format(past.stamp().orElseThrow().at()) + " in the destination";
    }

    private static String on(FieldPast past) {
        return past.stamp()
                .filter(stamp -> !stamp.byUs())
                .map(stamp -> " on " + TIME.format(stamp.at()))
                .orElse("");
    }

    private static String leftAsItIs(ShapedField shaped) {
        return shaped.emptiness().map(ShapedField.Emptiness::word).orElse("empty") + ", left unchanged";
    }

    /** Why the person does not allow the field; empty when they do, or need not be asked. */
    private static Optional<String> refused(ShapedField shaped) {
        String purpose = shaped.rule().consent().map(FieldConsent::purpose).orElse("");
        return shaped.said()
                .filter(said -> said != FieldConsent.Said.YES)
                .map(said -> said == FieldConsent.Said.NO
                        ? "no consent to " + purpose
                        : "not asked for consent to " + purpose);
    }

    /** A stated no takes away what we put there; it waits for nothing and asks nobody. */
    private static FieldDecision withoutConsent(ShapedField shaped, MatchResult.Matched there, Outcome outcome) {
        String name = shaped.field().name();
        boolean ours = there.known().containsKey(name)
                && !there.live(name).isEmpty()
                && Judge.same(there.known().get(name), there.live(name));
        boolean no = shaped.said().filter(said -> said == FieldConsent.Said.NO).isPresent();
        return no && ours && !shaped.field().required()
                ? outcome.cleared(refused(shaped).orElseThrow())
                : outcome.kept(refused(shaped).orElseThrow());
    }

    /** Words for what becomes of one field. */
    private record Outcome(ShapedField shaped, Value old) {
        Value fresh() {
            return shaped.shaped() instanceof Shaped.Usable usable ? usable.value() : Value.MISSING;
        }

        private FieldDecision decide(FieldOutcome outcome, String reason) {
            return new FieldDecision(shaped.field().name(), outcome, old, fresh(), reason);
        }

        FieldDecision same() {
            return decide(FieldOutcome.SAME, "").marked(shaped.mark());
        }

        FieldDecision kept(String reason) {
            return decide(FieldOutcome.KEPT, reason);
        }

        FieldDecision held(String reason) {
            return decide(FieldOutcome.HELD, reason);
        }

        FieldDecision written(String reason) {
            return decide(FieldOutcome.WRITTEN, reason).marked(shaped.mark());
        }

        FieldDecision cleared(String reason) {
            return new FieldDecision(shaped.field().name(), FieldOutcome.WRITTEN, old, Value.EMPTY, reason);
        }

        FieldDecision unusable(Shaped.Unusable unusable) {
            return shaped.rule().written() == Written.NEVER || shaped.rule().ifUnusable() == IfUnusable.LEAVE
                    ? kept("left unchanged: " + unusable.reason())
                    : held(unusable.reason());
        }

        FieldDecision timed(Instant at, FieldPast past, String reason) {
            if (shaped.rule().timing().isEmpty()) {
                return written(reason);
            }
            Timing.Answer answer = shaped.rule().timing().get().at(at, past.writtenAt(), past.mark(), shaped.mark());
            if (answer instanceof Timing.Answer.Waits waits) {
                return new FieldDecision(
                        shaped.field().name(), FieldOutcome.WAITS, old, fresh(), waits.reason(), waits.until(), 0, "");
            }
            return answer instanceof Timing.Answer.Over over ? kept(over.reason()) : written(reason);
        }
    }
}
