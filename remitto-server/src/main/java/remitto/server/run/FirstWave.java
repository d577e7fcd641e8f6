package remitto.server.run;

import java.util.Optional;
import java.util.function.BooleanSupplier;
import remitto.core.route.Waves;

/** Lets only the first wave go until it was looked at. Safe to share between threads. */
public final class FirstWave {
    private final Optional<Waves> waves;
    private long given;
    private long settled;
    private long refused;
    private boolean passed;
    private Optional<Progress> progress = Optional.empty();

    /**
     * @param given lines that went before, when sending is taken up again
     * @param passed somebody said that the rest may go
     */
    FirstWave(Optional<Waves> waves, long given, long refused, boolean passed) {
        this.waves = waves;
        this.given = given;
        this.settled = given;
        this.refused = refused;
        this.passed = passed || waves.isEmpty();
    }

    public static FirstWave none() {
        return new FirstWave(Optional.empty(), 0, 0, true);
    }

    /** How many of the wanted lines may be taken now. */
    synchronized int grant(int wanted) {
        return passed
                ? wanted
                : (int) Math.min(wanted, Math.max(0, waves.orElseThrow().first() - given));
    }

    synchronized void gave(int lines) {
        given += lines;
    }

    /** Tells how far the run is with every outcome from now on. */
    public synchronized void tell(Progress watched) {
        progress = Optional.of(watched);
    }

    /** @param lines that have their outcome now, refusals among them */
    public synchronized void settled(int lines, int refusals) {
        settled += lines;
        refused += refusals;
        progress.ifPresent(watched -> watched.add(lines));
        notifyAll();
    }

    public synchronized boolean isFull() {
        return !passed && given >= waves.orElseThrow().first();
    }

    /** Waits until every line of the wave has its outcome, and lets the rest go if they are good; false if interrupted. */
    public synchronized boolean settle(BooleanSupplier goesOn) {
        try {
            while (!passed && settled < given && goesOn.getAsBoolean()) {
                wait(200);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
        passed = passed || settled >= given && waves.orElseThrow().mayGoOn(settled, refused);
        return passed;
    }

    /** Why the rest waits; empty when it does not. */
    public synchronized Optional<String> closed() {
        return passed || given < waves.orElseThrow().first()
                ? Optional.empty()
                : Optional.of("The first wave of " + given + " was sent, " + refused
                        + " refused; the rest waits for confirmation.");
    }
}
