package remitto.server;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import remitto.server.installation.ConfigurationFault;
import remitto.server.installation.ConfigurationFile;

/** The server process. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class RemittoServer {
    private static final String CONFIGURATION = "--configuration=";

    /** Started with {@code --configuration=FILE}, it takes its settings from there; what is wrong with them is told, and ends it. */
    public static void main(String[] args) {
        List<String> all = new ArrayList<>();
        for (String arg : args) {
            if (arg.startsWith(CONFIGURATION)) {
                settings(arg.substring(CONFIGURATION.length())).forEach(all::add);
            } else {
                all.add(arg);
            }
        }
        SpringApplication.run(RemittoServer.class, all.toArray(String[]::new));
    }

    private static List<String> settings(String file) {
        try {
            return ConfigurationFile.properties(Path.of(file)).entrySet().stream()
                    .map(one -> "--" + one.getKey() + "=" + one.getValue())
                    .toList();
        } catch (ConfigurationFault e) {
            System.err.println(e.getMessage());
            System.exit(2);
            return List.of();
        }
    }
}
