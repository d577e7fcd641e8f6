package remitto.core.audience;

import java.util.Optional;

/**
 * Everything a version of an audience says.
 *
 * @param condition that its people meet; what counts when {@code sql} is blank
 * @param sql a query whose column person_id says who is in it, written by somebody who knows the tables; blank otherwise
 * @param zone in which its days are counted
 * @param best absent when all who meet the condition are in it
 */
public record AudienceSpec(Condition condition, String sql, String zone, HoldOut holdOut, Optional<Best> best) {
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
        return new AudienceSpec(condition, "", zone, HoldOut.none(), Optional.empty());
    }

    public boolean bySql() {
        return !sql.isBlank();
    }
}
