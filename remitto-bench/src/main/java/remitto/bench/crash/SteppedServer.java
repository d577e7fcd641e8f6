package remitto.bench.crash;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import remitto.demo.history.RunningServer;
import remitto.demo.history.ShiftedClock;

/** The real server, whose clock is as far off as a file says, in seconds, from one moment to the next. */
public final class SteppedServer {
    private SteppedServer() {}

    /** @param args the file, then settings of the server as {@code name=value} */
    public static void main(String[] args) throws Exception {
        Path file = Path.of(args[0]);
        Map<String, Object> settings = new HashMap<>();
        for (int at = 1; at < args.length; at++) {
            String[] parts = args[at].split("=", 2);
            settings.put(parts[0], parts[1]);
        }
        ShiftedClock clock = new ShiftedClock();
        step(clock, file);
        Thread hand = new Thread(() -> follow(clock, file), "hand-on-the-clock");
        hand.setDaemon(true);
        hand.start();
        RunningServer.start(settings, clock);
    }

    private static void follow(ShiftedClock clock, Path file) {
        try {
            while (true) {
                TimeUnit.MILLISECONDS.sleep(50);
                step(clock, file);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static void step(ShiftedClock clock, Path file) {
        try {
            String text = Files.exists(file) ? Files.readString(file).strip() : "";
            if (!text.isEmpty()) {
                clock.set(Instant.now().plus(Duration.ofSeconds(Long.parseLong(text))));
            }
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}
