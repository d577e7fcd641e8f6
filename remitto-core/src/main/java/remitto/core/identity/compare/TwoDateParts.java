package remitto.core.identity.compare;

/** Dates as they are normalised (yyyymmdd) that agree in two of year, month and day. */
public record TwoDateParts() implements Comparison {
    private static final int LENGTH = 8;

    @Override
    public boolean holds(String one, String other) {
        if (one.length() != LENGTH || other.length() != LENGTH) {
            return false;
        }
        int same = one.regionMatches(0, other, 0, 4) ? 1 : 0;
        same += one.regionMatches(4, other, 4, 2) ? 1 : 0;
        same += one.regionMatches(6, other, 6, 2) ? 1 : 0;
        return same == 2;
    }

    @Override
    public String words() {
        return "the same in two of year, month and day";
    }
}
