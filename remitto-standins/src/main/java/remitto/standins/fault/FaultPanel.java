package remitto.standins.fault;

import java.util.List;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;

/** Faults somebody switched on, for a share of the calls or for the next few. */
public final class FaultPanel {
    /**
     * Every fault there is. {@code partial}: every other record of the call is refused; {@code refuse-whole}: the call is refused with all
     * its records, as if one of them could not even be read.
     */
    public static final List<String> KINDS = List.of(
            "latency",
            "too-many",
            "server-error",
            "drop-before",
            "drop-after",
            "not-json",
            "expired-token",
            "partial",
            "refuse-whole");

    private final List<String> kinds;
    private final List<Armed> armed = new CopyOnWriteArrayList<>();
    private final Random random = new Random(7);

    /** @param kinds the faults this stand-in can have */
    public FaultPanel(List<String> kinds) {
        this.kinds = List.copyOf(kinds);
    }

    public List<String> kinds() {
        return kinds;
    }

    /**
     * @param fault one of {@link #KINDS}
     * @param on part of the path the fault is limited to; blank for every call
     * @param share share of the calls, 0 to 1; used when {@code next} is 0
     * @param next so many calls from now on, then none
     * @param millis how long, for latency
     */
    public record Fault(String fault, String on, double share, int next, int millis) {}

    private record Armed(Fault fault, AtomicInteger left) {}

    public void arm(List<Fault> faults) {
        faults.stream()
                .filter(fault -> !kinds.contains(fault.fault()))
                .findFirst()
                .ifPresent(fault -> {
                    throw new IllegalArgumentException(
                            "there is no fault " + fault.fault() + " here; there are " + kinds);
                });
        armed.clear();
        faults.forEach(fault -> armed.add(new Armed(fault, new AtomicInteger(fault.next()))));
    }

    public List<Fault> armed() {
        return armed.stream()
                .map(one -> new Fault(
                        one.fault.fault(), one.fault.on(), one.fault.share(), one.left.get(), one.fault.millis()))
                .toList();
    }

    /** Faults that hit this call; counts down those limited to a number of calls. */
    public List<Fault> strike(String path) {
        return armed.stream()
                .filter(one -> path.contains(one.fault.on()))
                .filter(this::hits)
                .map(Armed::fault)
                .toList();
    }

    private boolean hits(Armed one) {
        if (one.fault.next() > 0) {
            return one.left.getAndUpdate(left -> Math.max(0, left - 1)) > 0;
        }
        synchronized (random) {
            return random.nextDouble() < one.fault.share();
        }
    }
}
