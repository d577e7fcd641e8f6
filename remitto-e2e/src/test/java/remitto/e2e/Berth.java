package remitto.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;

/**
 * Where a stack stands.
 *
 * @param name part of the names of its databases
 * @param ports of its stand-ins
 * @param folder what its stand-ins and its server keep
 */
record Berth(String name, Ports ports, Path folder) {
    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static final int PORTS = 9_000;
    /** No port is handed out twice, so that what is picked first is still free when all five are taken. */
    private static final AtomicInteger NEXT_PORT =
            new AtomicInteger(ThreadLocalRandom.current().nextInt(PORTS));
    /** Tests that run side by side have ports of their own. */
    private static final int FIRST_PORT = 12_000 + (Integer.getInteger("remitto.fork", 1) - 1) * PORTS;

    record Ports(int purser, int lamplight, int foghorn, int gangway, int postbag) {}

    static Berth free() throws IOException {
        String name = ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
        Ports ports = new Ports(port(), port(), port(), port(), port());
        return new Berth(name, ports, folderOfItsOwn());
    }

    private static Path folderOfItsOwn() throws IOException {
        return Files.createTempDirectory("remitto-test");
    }

    /** Not one of those that outgoing connections get, so that it is still free when it is wanted again. */
    private static int port() throws IOException {
        while (true) {
            int port = FIRST_PORT + NEXT_PORT.getAndIncrement() % PORTS;
            try (ServerSocket socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
                return socket.getLocalPort();
            } catch (java.net.BindException taken) {
                continue;
            }
        }
    }

    String remitto() {
        return "remitto_test_" + name;
    }

    String warehouse() {
        return "halvorn_test_" + name;
    }

    List<String> databases() {
        return List.of(remitto(), warehouse());
    }

    /** The same names and ports, with a copy of the folder. */
    Berth again() throws IOException {
        Path copy = folderOfItsOwn();
        try (Stream<Path> kept = Files.walk(folder)) {
            kept.filter(path -> !path.equals(folder))
                    .forEach(path -> copyTo(path, copy.resolve(folder.relativize(path))));
        }
        return new Berth(name, ports, copy);
    }

    private static void copyTo(Path from, Path to) {
        try {
            Files.copy(from, to);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
