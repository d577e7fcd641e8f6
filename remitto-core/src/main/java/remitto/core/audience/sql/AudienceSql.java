package remitto.core.audience.sql;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import remitto.core.audience.AudienceFault;
import remitto.core.audience.AudienceSpec;
import remitto.core.audience.Condition;
import remitto.core.audience.Derivation;
import remitto.core.audience.EventsOf;
import remitto.core.audience.Measure;
import remitto.core.audience.ValueTest;
import remitto.core.audience.Vocabulary;
import remitto.core.audience.Window;
import remitto.core.dataset.ColumnType;

/**
 * Conditions as SQL. The same condition judged in memory gives the same people.
 *
 * <p>Times are written into the text, so that it says the same however long it runs.
 */
public final class AudienceSql {
    private final Vocabulary words;
    private final Storage storage;
    private final Window.Now now;
    private final TestSql tests;
    private final MeasureSql measures;

    public AudienceSql(Vocabulary words, Storage storage, Window.Now now) {
        this.words = words;
        this.storage = storage;
        this.now = now;
        this.tests = new TestSql(now);
        this.measures = new MeasureSql(words, storage, tests);
    }

    /** Where a condition stands, which decides what the planner can make of it. */
    private enum Place {
        /** One of several that all must hold: a join can stand for it. */
        AMONG_ALL,
        ELSEWHERE
    }

    /** The ids of the people who meet the condition. */
    public String members(Condition condition) {
        if (condition instanceof Condition.AllOf all) {
            Optional<List<Condition.MeasureHolds>> active = active(all.conditions());
            if (active.isPresent()) {
                List<Condition> others = new ArrayList<>(all.conditions());
                others.removeAll(active.get());
                return measures.inOnePass(active.get(), true, narrowed(members(new Condition.AllOf(others))));
            }
        }
        return "select p.person_id from " + storage.people() + " p where " + sql(condition, Place.AMONG_ALL);
    }

    /** Measures over the same events that only people with such events can meet; those are then looked for among them. */
    private Optional<List<Condition.MeasureHolds>> active(List<Condition> conditions) {
        return together(conditions).values().stream()
                .filter(all -> !holdWithoutEvents(all))
                .findFirst();
    }

    private static Map<String, List<Condition.MeasureHolds>> together(List<Condition> conditions) {
        Map<String, List<Condition.MeasureHolds>> together = new LinkedHashMap<>();
        conditions.forEach(one -> {
            if (one instanceof Condition.MeasureHolds holds && MeasureSql.fitsBesideOthers(holds.measure())) {
                together.computeIfAbsent(holds.measure().of().events(), events -> new ArrayList<>())
                        .add(holds);
            }
        });
        return together;
    }

    private boolean holdWithoutEvents(List<Condition.MeasureHolds> all) {
        all.forEach(one -> one.test().check("The measure", one.measure().type(words)));
        return all.stream().allMatch(one -> one.test().holds(one.measure().withoutEvents(), now));
    }

    private static String narrowed(String people) {
        return " and l.person_id in (" + people + ")";
    }

    /** The people of an audience: person_id, and whether they are in the control group. */
    public String members(AudienceSpec spec) {
        return spec.best().map(best -> first(spec, best)).orElseGet(() -> apart(spec, members(spec.condition())));
    }

    private String first(AudienceSpec spec, AudienceSpec.Best best) {
        ColumnType type = words.attribute(best.attribute());
        if (type == ColumnType.TEXT || type == ColumnType.BOOLEAN) {
            throw new AudienceFault("\"" + best.attribute() + "\" has no order to take the first people by.");
        }
        String value = "p." + SqlText.name(best.attribute());
        return apart(
                spec,
                "select p.person_id from " + storage.people() + " p where " + value
                        + " is not null and p.person_id in ("
                        + members(spec.condition()) + ") order by " + value + (best.largest() ? " desc" : "")
                        + ", p.person_id limit " + best.people());
    }

    /** @param people a query of ids */
    public static String apart(AudienceSpec spec, String people) {
        return "select m.person_id, "
                + (spec.controlGroup().share() == 0
                        ? "false"
                        : "('x' || substr(md5("
                                + SqlText.text(spec.controlGroup().seed() + ":")
                                + " || m.person_id), 1, 8))::bit(32)::bigint % 10000 < "
                                + spec.controlGroup().share())
                + " as held_out from (" + people + ") as m";
    }

    /** A row of person_id and value for everybody who has such events. */
    public String measure(Measure measure) {
        return measures.of(measure, "");
    }

    /**
     * The same for some people only.
     *
     * @param people a query of ids
     */
    public String measure(Measure measure, String people) {
        return measures.of(measure, " and l.person_id in (" + people + ")");
    }

    /** A row of person_id and value for everybody who has a value to score. */
    public String score(Derivation.Score score) {
        score.type(words);
        String value = "p." + SqlText.name(score.of());
        // As Score.band does it: whole numbers only, so that no rounding moves anybody.
        return "select person_id, (" + score.bands() + " * no_better + people - 1) / people as value from"
                + " (select p.person_id, count(*) over (order by " + value + (score.largestIsBest() ? "" : " desc")
                + " range between unbounded preceding and current row) as no_better, count(*) over () as people from "
                + storage.people() + " p where " + value + " is not null) as ranked";
    }

    /**
     * Counts several conditions over everybody in one pass.
     *
     * @param conditions each counted by itself, in a row of numbers after the number of all people
     */
    public String counts(List<Condition> conditions) {
        List<Condition> leaves = new ArrayList<>();
        conditions.forEach(condition -> leaves(condition, leaves));
        StringBuilder inner = new StringBuilder("select p.person_id");
        for (int i = 0; i < leaves.size(); i++) {
            inner.append(", (")
                    .append(sql(leaves.get(i), Place.ELSEWHERE))
                    .append(") is true as c")
                    .append(i);
        }
        String counted = conditions.stream()
                .map(condition -> ", count(*) filter (where " + composed(condition, leaves) + ")")
                .collect(Collectors.joining());
        return "select count(*)" + counted + " from (" + inner + " from " + storage.people() + " p offset 0) as judged";
    }

    private static void leaves(Condition condition, List<Condition> leaves) {
        if (condition instanceof Condition.AllOf all) {
            all.conditions().forEach(one -> leaves(one, leaves));
        } else if (condition instanceof Condition.AnyOf any) {
            any.conditions().forEach(one -> leaves(one, leaves));
        } else if (condition instanceof Condition.Unless not) {
            leaves(not.condition(), leaves);
        } else if (!leaves.contains(condition)) {
            leaves.add(condition);
        }
    }

    private static String composed(Condition condition, List<Condition> leaves) {
        if (condition instanceof Condition.AllOf all) {
            return joined(all.conditions(), leaves, " and ", "true");
        } else if (condition instanceof Condition.AnyOf any) {
            return joined(any.conditions(), leaves, " or ", "false");
        } else if (condition instanceof Condition.Unless not) {
            return "not " + composed(not.condition(), leaves);
        }
        return "c" + leaves.indexOf(condition);
    }

    private static String joined(List<Condition> conditions, List<Condition> leaves, String with, String none) {
        return conditions.isEmpty()
                ? none
                : conditions.stream().map(one -> composed(one, leaves)).collect(Collectors.joining(with, "(", ")"));
    }

    private String sql(Condition condition, Place place) {
        if (condition instanceof Condition.Everyone) {
            return "true";
        } else if (condition instanceof Condition.AllOf all) {
            return all.conditions().isEmpty() ? "true" : all(all.conditions(), place);
        } else if (condition instanceof Condition.AnyOf any) {
            return any.conditions().isEmpty()
                    ? "false"
                    : any.conditions().stream()
                            .map(one -> sql(one, Place.ELSEWHERE))
                            .collect(Collectors.joining(" or ", "(", ")"));
        } else if (condition instanceof Condition.Unless not) {
            return not(not.condition(), place);
        } else if (condition instanceof Condition.AttributeHolds attribute) {
            ColumnType type = words.attribute(attribute.attribute());
            attribute.test().check(attribute.attribute(), type);
            return "(" + tests.of(attribute.test(), "p." + SqlText.name(attribute.attribute()), type) + ")";
        }
        People people = people(condition);
        return place == Place.AMONG_ALL ? people.joined() : people.looked();
    }

    /**
     * Conditions that all must hold. Measures over the same events are worked out in one pass, and only for the people whom
     * the conditions that cost little leave.
     */
    private String all(List<Condition> conditions, Place place) {
        Map<String, List<Condition.MeasureHolds>> measured = place == Place.AMONG_ALL ? together(conditions) : Map.of();
        List<String> parts = new ArrayList<>();
        List<String> cheap = new ArrayList<>();
        for (Condition one : conditions) {
            if (measured.values().stream().noneMatch(all -> all.contains(one))) {
                String sql = sql(one, place);
                parts.add(sql);
                if (one instanceof Condition.AttributeHolds) {
                    cheap.add(sql);
                }
            }
        }
        String few = cheap.isEmpty()
                ? ""
                : narrowed("select p.person_id from " + storage.people() + " p where " + String.join(" and ", cheap));
        measured.values().forEach(all -> {
            boolean without = holdWithoutEvents(all);
            parts.add(new People(measures.inOnePass(all, !without, few), !without).joined());
        });
        return "(" + String.join(" and ", parts) + ")";
    }

    private String not(Condition condition, Place place) {
        if (condition instanceof Condition.AttributeHolds) {
            return sql(condition, place) + " is not true";
        }
        if (condition instanceof Condition.AllOf
                || condition instanceof Condition.AnyOf
                || condition instanceof Condition.Unless
                || condition instanceof Condition.Everyone) {
            return "(" + sql(condition, Place.ELSEWHERE) + ") is not true";
        }
        People people = people(condition).others();
        return place == Place.AMONG_ALL ? people.joined() : people.looked();
    }

    /**
     * People by a query of their ids.
     *
     * @param ids a query whose one column is person_id and never null
     * @param in whether they are meant, or all others
     */
    private record People(String ids, boolean in) {
        People others() {
            return new People(ids, !in);
        }

        /** The planner makes a join of it. */
        String joined() {
            return (in ? "" : "not ") + "exists (select from (" + ids + ") as q where q.person_id = p.person_id)";
        }

        /** The planner makes a table of it that is looked into. */
        String looked() {
            return "p.person_id " + (in ? "" : "not ") + "in (" + ids + ")";
        }
    }

    private People people(Condition condition) {
        if (condition instanceof Condition.MeasureHolds measured) {
            return measured(measured);
        } else if (condition instanceof Condition.EventThen followed) {
            return new People(followed(followed), true);
        } else if (condition instanceof Condition.InAudience audience) {
            return new People(
                    "select m.person_id from " + storage.members() + " m where m.audience_id = " + audience.audience(),
                    true);
        } else if (condition instanceof Condition.Agreed agreed) {
            String asked = "select a.person_id from " + storage.answers() + " a where a.purpose = "
                    + SqlText.text(agreed.purpose()) + " and a.channel = " + SqlText.text(agreed.channel());
            return agreed.answer() == Condition.Answer.NOT_ASKED
                    ? new People(asked, false)
                    : new People(asked + " and a.answer = '" + agreed.answer() + "'", true);
        } else if (condition instanceof Condition.RecordIn dataset) {
            return new People(
                    "select r.person_id from " + storage.records() + " r where r.dataset_id = " + dataset.dataset(),
                    true);
        } else if (condition instanceof Condition.SentTo sent) {
            return new People(
                    "select s.person_id from " + storage.sent() + " s where s.route_id = " + sent.route()
                            + " and s.state = '" + sent.state() + "'",
                    true);
        }
        throw new AssertionError(condition);
    }

    /** Those without events are in no query over events: where the test holds for them, the others are asked for. */
    private People measured(Condition.MeasureHolds condition) {
        Measure measure = condition.measure();
        ColumnType type = measure.type(words);
        ValueTest test = condition.test();
        test.check("The measure", type);
        boolean withoutEvents = test.holds(measure.withoutEvents(), now);
        String holds = tests.of(test, "m.value", type);
        return new People(
                "select m.person_id from (" + measures.of(measure, "") + ") as m where "
                        + (withoutEvents ? "(" + holds + ") is not true" : holds),
                !withoutEvents);
    }

    private String followed(Condition.EventThen condition) {
        String end = tests.startOf(tests.dayOf("f.at") + " + " + (condition.days() + 1));
        String came = "exists (select from (" + moments(condition.then(), new Window.Ever())
                + ") as t where t.person_id = f.person_id and t.at > f.at and t.at < " + end + ")";
        return "select f.person_id from (" + moments(condition.first(), condition.window()) + ") as f where "
                + (condition.none() ? end + " <= " + tests.now() + " and not " + came : came);
    }

    private String moments(EventsOf of, Window window) {
        return "select l.person_id, e.at" + measures.from(of, window);
    }

    /** @throws AudienceFault if the condition speaks of what does not exist, or asks it what it cannot tell */
    public void check(Condition condition) {
        sql(condition, Place.ELSEWHERE);
    }
}
