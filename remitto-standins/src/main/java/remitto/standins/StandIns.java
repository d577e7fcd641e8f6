package remitto.standins;

import java.nio.file.Path;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import remitto.standins.foghorn.Foghorn;
import remitto.standins.gangway.Gangway;
import remitto.standins.lamplight.Lamplight;
import remitto.standins.postbag.Postbag;
import remitto.standins.purser.Purser;
import remitto.standins.slipway.Slipway;
import remitto.standins.ticketshop.TicketShop;

/**
 * Starts the simulated tools. Arguments: the folder for their data, the port of Purser CRM, and if wanted those
 * of Lamplight Ads and Foghorn Chat, those of Gangway Support and Postbag Mail, those of Slipway's pages and its SFTP, and that of
 * the ticket shop.
 */
public final class StandIns {
    private StandIns() {}

    public static void main(String[] args) {
        Logger log = LoggerFactory.getLogger(StandIns.class);
        try {
            start(args, log);
        } catch (RuntimeException e) {
            // Those that listen already would keep a process alive that is of no use.
            log.error("A stand-in cannot start: {}", e.getMessage());
            System.exit(1);
        }
    }

    private static void start(String[] args, Logger log) {
        Path folder = Path.of(args[0]);
        Purser purser = Purser.start(Integer.parseInt(args[1]), folder.resolve("purser.jsonl"));
        closeAtEnd(purser::close);
        log.info("Purser CRM on http://127.0.0.1:{}", purser.port());
        if (args.length > 3) {
            Lamplight lamplight = Lamplight.start(Integer.parseInt(args[2]), folder.resolve("lamplight.jsonl"));
            closeAtEnd(lamplight::close);
            log.info("Lamplight Ads on http://127.0.0.1:{}", lamplight.port());
            Foghorn foghorn = Foghorn.start(Integer.parseInt(args[3]), folder.resolve("foghorn.jsonl"));
            closeAtEnd(foghorn::close);
            log.info("Foghorn Chat on http://127.0.0.1:{}", foghorn.port());
        }
        if (args.length > 4) {
            Gangway gangway = Gangway.start(Integer.parseInt(args[4]), folder.resolve("gangway.jsonl"));
            closeAtEnd(gangway::close);
            log.info("Gangway Support on http://127.0.0.1:{}", gangway.port());
        }
        if (args.length > 5) {
            Postbag postbag = Postbag.start(Integer.parseInt(args[5]), folder.resolve("postbag.jsonl"));
            closeAtEnd(postbag::close);
            log.info("Postbag Mail on http://127.0.0.1:{}", postbag.port());
        }
        if (args.length > 7) {
            Slipway slipway =
                    Slipway.start(Integer.parseInt(args[6]), Integer.parseInt(args[7]), folder.resolve("slipway"));
            closeAtEnd(slipway::close);
            log.info("Slipway on http://127.0.0.1:{}, SFTP on {}", slipway.port(), slipway.sshPort());
        }
        if (args.length > 8) {
            TicketShop shop = TicketShop.start(Integer.parseInt(args[8]), folder.resolve("ticket-shop.json"));
            closeAtEnd(shop::close);
            log.info("Ticket shop on http://127.0.0.1:{}", shop.port());
        }
    }

    private static void closeAtEnd(Runnable close) {
        Runtime.getRuntime().addShutdownHook(new Thread(close, "close-stand-in"));
    }
}
