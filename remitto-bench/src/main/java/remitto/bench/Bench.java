package remitto.bench;

/** Benchmarks of the whole product. */
public final class Bench {
    private Bench() {}

    public static void main(String[] args) {
        System.err.println("usage: bench compare|send --rows N");
        System.exit(2);
    }
}
