package remitto.server.installation;

import java.util.List;
import java.util.stream.Collectors;

/** What is wrong with a configuration file, all of it at once. */
public final class ConfigurationFault extends RuntimeException {
    private final transient List<Line> lines;

    /**
     * One thing that is wrong.
     *
     * @param number of its line, from 1; 0 for the file as a whole
     */
    public record Line(int number, String message) {
        @Override
        public String toString() {
            return number == 0 ? message : "line " + number + ": " + message;
        }
    }

    ConfigurationFault(String file, List<Line> lines) {
        super(lines.stream().map(line -> file + ", " + line).collect(Collectors.joining("\n")));
        this.lines = List.copyOf(lines);
    }

    public List<Line> lines() {
        return lines;
    }
}
