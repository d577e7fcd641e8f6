package remitto.core.identity.compare;

/** Dates as they are normalised (yyyymmdd) whose day and month were written in each other's place. */
public record DayAndMonthSwapped() implements Comparison {
    private static final int LENGTH = 8;
    private static final int MONTH = 4;
    private static final int DAY = 6;

    @Override
    public boolean holds(String one, String other) {
        return one.length() == LENGTH
                && other.length() == LENGTH
                && one.regionMatches(0, other, 0, MONTH)
                && one.regionMatches(MONTH, other, DAY, 2)
                && one.regionMatches(DAY, other, MONTH, 2);
    }

    @Override
    public String words() {
        return "the same with day and month swapped";
    }
}
