package remitto.core.identity.evidence;

/**
 * Brings estimated weights into order: agreeing better may not weigh less. Neighbours that are the wrong way round are taken
 * together until none are (the pool-adjacent-violators algorithm: Ayer, Brunk, Ewing, Reid and Silverman, Annals of Mathematical
 * Statistics 26 (1955) 641), which is what the likeliest estimate in that order comes to.
 */
final class Pooling {
    private Pooling() {}

    /**
     * Rows of weights, each brought into order for itself.
     *
     * @param m how often one person's records agree so, by row and level; changed in place
     * @param u the same of other pairs; left as it is
     * @param count levels of a row, the best first
     */
    static void inOrder(double[] m, double[] u, int count) {
        for (int from = 0; from < m.length; from += count) {
            row(m, u, from, count);
        }
    }

    private static void row(double[] m, double[] u, int from, int count) {
        double[] sumM = new double[count];
        double[] sumU = new double[count];
        int[] levels = new int[count];
        int pools = 0;
        for (int i = 0; i < count; i++) {
            sumM[pools] = m[from + i];
            sumU[pools] = u[from + i];
            levels[pools++] = 1;
            while (pools > 1 && sumM[pools - 2] * sumU[pools - 1] < sumM[pools - 1] * sumU[pools - 2]) {
                sumM[pools - 2] += sumM[pools - 1];
                sumU[pools - 2] += sumU[pools - 1];
                levels[pools - 2] += levels[pools - 1];
                pools--;
            }
        }
        int level = from;
        for (int pool = 0; pool < pools; pool++) {
            for (int i = 0; i < levels[pool]; i++, level++) {
                m[level] = u[level] * sumM[pool] / sumU[pool];
            }
        }
    }
}
