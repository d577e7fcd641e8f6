package remitto.server.installation;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * What the launcher asks about a configuration file: {@code write FILE key=value...} makes one, {@code check FILE} tells what is wrong
 * with it (exit code 2), {@code values FILE key...} tells settings, one a line.
 */
public final class ConfigurationProgram {
    private ConfigurationProgram() {}

    public static void main(String[] args) throws IOException {
        Path file = Path.of(args[1]);
        try {
            switch (args[0]) {
                case "write" -> write(file, args);
                case "check" -> ConfigurationFile.read(file);
                default -> {
                    Map<String, Object> settings = ConfigurationFile.read(file);
                    Arrays.stream(args).skip(2).map(settings::get).forEach(System.out::println);
                }
            }
        } catch (ConfigurationFault e) {
            System.err.println(e.getMessage());
            System.exit(2);
        }
    }

    private static void write(Path file, String[] args) throws IOException {
        Map<String, String> chosen = new HashMap<>();
        for (int at = 2; at < args.length; at++) {
            int equals = args[at].indexOf('=');
            chosen.put(args[at].substring(0, equals), args[at].substring(equals + 1));
        }
        Files.writeString(file, ConfigurationText.of(chosen));
    }
}
