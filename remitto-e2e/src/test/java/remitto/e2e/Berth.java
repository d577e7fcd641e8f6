package remitto.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import remitto.bench.Ports;

/**
 * Where a stack stands.
 *
 * @param name part of the names of its databases
 * @param ports of its stand-ins
 * @param folder what its stand-ins and its server keep
 */
record Berth(String name, Desks ports, Path folder) {
    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static final Ports BLOCK = block();

    record Desks(int purser, int lamplight, int foghorn, int gangway, int postbag) {}

    static Berth free() throws IOException {
        String name = ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
        Desks ports = new Desks(port(), port(), port(), port(), port());
        return new Berth(name, ports, folderOfItsOwn());
    }

    private static Path folderOfItsOwn() throws IOException {
        return Files.createTempDirectory("remitto-test");
    }

    private static Ports block() {
        try {
            return Ports.claim();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A port that nobody else is given. */
    static int port() throws IOException {
        return BLOCK.next();
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
