package remitto.core.audience;

/**
 * What a count in a sample says of everybody.
 *
 * <p>The margin is half the Wilson score interval at 95% (E. B. Wilson, Journal of the American Statistical Association 22,
 * 1927), narrowed by the finite population correction, as a number of people. It stays sensible for counts near 0 and near all.
 */
public record SampleMargin(long sampled, long people) {
    private static final double Z = 1.959963984540054;

    public long estimate(long inSample) {
        return sampled == 0 ? 0 : Math.round((double) inSample * people / sampled);
    }

    /** People by which {@link #estimate} may be off, 19 times of 20. */
    public long of(long inSample) {
        if (sampled == 0) {
            return people;
        }
        double share = (double) inSample / sampled;
        double square = Z * Z / sampled;
        double half = Z / (1 + square) * Math.sqrt(share * (1 - share) / sampled + square / (4 * sampled));
        double centre = (share + square / 2) / (1 + square);
        double correction = people <= 1 ? 0 : Math.sqrt((double) (people - sampled) / (people - 1));
        double off = Math.max(Math.abs(centre + half - share), Math.abs(share - centre + half)) * correction;
        return (long) Math.ceil(off * people);
    }
}
