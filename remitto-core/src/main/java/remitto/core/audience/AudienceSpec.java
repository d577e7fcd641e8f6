package remitto.core.audience;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * Everything a version of an audience says.
 *
 * @param condition that its people meet; what counts when {@code sql} is blank
 * @param sql a query whose column person_id says who is a member, written by somebody who knows the tables; blank otherwise
 * @param zone in which its days are counted
 * @param best absent when all who meet the condition match
 */
public record AudienceSpec(
        Condition condition, String sql, String zone, ControlGroup controlGroup, Optional<Best> best) {
    private static final int MOST_CONDITIONS = 100;
    private static final int DEEPEST = 10;
    private static final int LONGEST_SQL = 50_000;

    /**
     * The first people by a number.
     *
     * @param attribute of which those without a value are left out; of equals, the person who was known first comes first
     */
    public record Best(String attribute, int people, boolean largest) {
        public Best {
            if (people < 1) {
                throw new AudienceFault("Take at least one person.");
            }
        }
    }

    public static AudienceSpec of(Condition condition, String zone) {
        return new AudienceSpec(condition, "", zone, ControlGroup.none(), Optional.empty());
    }

    /**
     * Keeps what somebody can ask within what a server can answer.
     *
     * @throws AudienceFault if it has too many conditions, or they are nested too deep
     */
    public void checkBounds() {
        if (sql.length() > LONGEST_SQL) {
            throw new AudienceFault("The SQL of an audience has at most " + LONGEST_SQL + " characters.");
        }
        if (count(condition, 1) > MOST_CONDITIONS) {
            throw new AudienceFault("An audience has at most " + MOST_CONDITIONS + " conditions.");
        }
    }

    /** Ids of the audiences it speaks of. */
    public Set<Long> audiences() {
        Set<Long> ids = new TreeSet<>();
        collect(condition, ids);
        return ids;
    }

    private static void collect(Condition condition, Set<Long> into) {
        if (condition instanceof Condition.InAudience in) {
            into.add(in.audience());
        }
        parts(condition).forEach(part -> collect(part, into));
    }

    /** Stops early, so that a tree of any size costs little. */
    private static int count(Condition condition, int depth) {
        if (depth > DEEPEST) {
            throw new AudienceFault("Conditions are nested at most " + DEEPEST + " deep.");
        }
        int sum = 1;
        for (Condition part : parts(condition)) {
            sum += count(part, depth + 1);
            if (sum > MOST_CONDITIONS) {
                return sum;
            }
        }
        return sum;
    }

    private static List<Condition> parts(Condition condition) {
        if (condition instanceof Condition.AllOf all) {
            return all.conditions();
        } else if (condition instanceof Condition.AnyOf any) {
            return any.conditions();
        } else if (condition instanceof Condition.Unless not) {
            return List.of(not.condition());
        }
        return List.of();
    }

    public boolean bySql() {
        return !sql.isBlank();
    }
}
