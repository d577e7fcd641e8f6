package remitto.standins;

import java.nio.file.Path;
import org.slf4j.LoggerFactory;
import remitto.standins.purser.Purser;

/** Starts the simulated destinations. Arguments: the folder for their data, and the port of Purser CRM. */
public final class StandIns {
    private StandIns() {}

    public static void main(String[] args) {
        Path folder = Path.of(args[0]);
        Purser purser = Purser.start(Integer.parseInt(args[1]), folder.resolve("purser.jsonl"));
        Runtime.getRuntime().addShutdownHook(new Thread(purser::close, "close-purser"));
        LoggerFactory.getLogger(StandIns.class).info("Purser CRM on http://127.0.0.1:{}", purser.port());
    }
}
