package remitto.core.destination;

/**
 * What a destination offers for an object.
 *
 * @param list its records are memberships: somebody is on the list or not
 * @param reads single records can be looked up; without it only what was acknowledged is known
 * @param updates records that are there can be changed
 * @param removes records can be removed
 * @param tellsFieldTimes it tells when and by whom each field was last written
 */
public record Abilities(boolean list, boolean reads, boolean updates, boolean removes, boolean tellsFieldTimes) {
    /** A destination that does not tell when a field was last written. */
    public Abilities(boolean list, boolean reads, boolean updates, boolean removes) {
        this(list, reads, updates, removes, false);
    }

    public static Abilities all() {
        return new Abilities(false, true, true, true);
    }
}
