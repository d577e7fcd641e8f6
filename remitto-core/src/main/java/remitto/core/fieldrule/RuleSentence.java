package remitto.core.fieldrule;

import java.util.List;
import java.util.function.LongFunction;
import java.util.stream.Collectors;
import remitto.core.shaper.Crosswalked;
import remitto.core.shaper.Shaper;

/** A rule in one sentence, which says all that it will do. */
public final class RuleSentence {
    private final LongFunction<String> routes;
    private final LongFunction<String> datasets;
    private final LongFunction<String> crosswalks;

    /** Names of what rules refer to by number. */
    public RuleSentence(LongFunction<String> routes, LongFunction<String> datasets, LongFunction<String> crosswalks) {
        this.routes = routes;
        this.datasets = datasets;
        this.crosswalks = crosswalks;
    }

    public String of(FieldRule rule) {
        return rule.field() + " receives " + receives(rule.receives()) + shapers(rule.shapers()) + "; "
                + written(rule)
                + rule.timing().map(Timing::sentence).orElse("")
                + rule.consent()
                        .map(consent -> ", only with consent to " + consent.purpose() + " (" + consent.column() + ")")
                        .orElse("")
                + ". " + empty(rule) + " " + unusable(rule.ifUnusable()) + drift(rule);
    }

    private String receives(Receives receives) {
        if (receives instanceof Receives.FromColumn from) {
            return "the column " + from.column();
        }
        if (receives instanceof Receives.Fixed fixed) {
            return "always \"" + fixed.text() + "\"";
        }
        if (receives instanceof Receives.Computed computed) {
            return "what " + computed.expression() + " gives";
        }
        if (receives instanceof Receives.RecordOf record) {
            return "the id of the record that the route " + routes.apply(record.route()) + " bound to "
                    + record.column();
        }
        if (receives instanceof Receives.RecordsOf records) {
            return "the ids of all records that the route " + routes.apply(records.route()) + " bound to the keys in "
                    + records.column();
        }
        if (receives instanceof Receives.FromDataset found) {
            return wayTo(found.where()) + " where " + found.where().by() + " is " + found.column()
                    + many(found.ifMany());
        }
        Receives.FoundThere there = (Receives.FoundThere) receives;
        return "the id of the " + there.object() + " in the destination whose " + there.by() + " is " + there.column()
                + many(there.ifMany()) + ", looked up again every day";
    }

    private String wayTo(DatasetLookUp where) {
        String start = where.hops().isEmpty() ? "" : ", starting from " + datasets.apply(where.dataset());
        String order = where.pick()
                .map(pick -> ", " + (pick.newestFirst() ? "last" : "first")
                        + (pick.most() > 0 ? " " + pick.most() : "") + " by " + pick.orderBy()
                        + (pick.lookBackDays() > 0 ? " within " + pick.lookBackDays() + " days" : ""))
                .orElse("");
        String only = where.only().stream()
                .map(one -> one.column() + " "
                        + one.comparison()
                                .name()
                                .toLowerCase(java.util.Locale.ROOT)
                                .replace('_', ' ') + " " + one.text())
                .collect(Collectors.joining(" and "));
        return given(where) + " of " + datasets.apply(where.last()) + (only.isEmpty() ? "" : " with " + only) + order
                + start;
    }

    private static String given(DatasetLookUp where) {
        return where.parts().isEmpty()
                ? where.give()
                : where.parts().stream()
                        .map(part -> part.name().equals(part.column())
                                ? part.column()
                                : part.column() + " as " + part.name())
                        .collect(Collectors.joining(", "));
    }

    private static String many(Receives.IfMany many) {
        return switch (many) {
            case UNUSABLE -> "";
            case FIRST -> ", the first of many";
            case LIST -> ", all of many";
        };
    }

    private String shapers(List<Shaper> shapers) {
        return shapers.isEmpty()
                ? ""
                : ", then "
                        + shapers.stream()
                                .map(shaper -> shaper instanceof Crosswalked walk
                                        ? "crosswalk " + crosswalks.apply(walk.crosswalk())
                                        : shaper.title())
                                .collect(Collectors.joining(", "));
    }

    private static String written(FieldRule rule) {
        return switch (rule.written()) {
            case ALWAYS -> "written whenever it differs";
            case WHEN_CREATING -> "written only when the record is created";
            case ONLY_IF_EMPTY_THERE -> "written only while the field is empty in the destination";
            case IF_NEWER ->
                "written over another value only if it is newer"
                        + rule.newer()
                                .map(newer -> " (by " + newer.column()
                                        + (newer.skewSeconds() > 0
                                                ? ", clocks may differ by " + newer.skewSeconds() + " s"
                                                : "")
                                        + ")")
                                .orElse("");
            case DESTINATION_DECIDES -> "written once into an empty field, after which the destination decides";
            case NEVER -> "never written";
        };
    }

    private static String empty(FieldRule rule) {
        StringBuilder out = new StringBuilder("If empty, ").append(choice(rule, rule.ifEmpty()));
        rule.ifBlank().ifPresent(choice -> out.append("; if blank, ").append(choice(rule, choice)));
        rule.ifMissing()
                .ifPresent(choice -> out.append("; if nothing is found, ").append(choice(rule, choice)));
        return out.append(".").toString();
    }

    private static String choice(FieldRule rule, IfEmpty choice) {
        return switch (choice) {
            case LEAVE -> "it is left as it is";
            case CLEAR -> "it is cleared";
            case DEFAULT -> "it becomes \"" + rule.defaultText() + "\"";
            case HOLD_RECORD -> "the record is held";
        };
    }

    private static String unusable(IfUnusable choice) {
        return switch (choice) {
            case HOLD_VALUE -> "A value that does not fit is held.";
            case HOLD_RECORD -> "A value that does not fit holds the record.";
            case LEAVE -> "A value that does not fit is passed over.";
        };
    }

    private static String drift(FieldRule rule) {
        if (rule.written() != Written.ALWAYS) {
            return "";
        }
        return switch (rule.onDrift()) {
            case OVERWRITE -> " Edits made in the destination are overwritten.";
            case KEEP_THEIRS -> " Edits made in the destination are kept.";
            case HOLD_VALUE -> " Edits made in the destination hold the value.";
        };
    }
}
