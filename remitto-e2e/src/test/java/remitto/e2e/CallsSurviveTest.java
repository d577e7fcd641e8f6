package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import remitto.demo.history.Api;
import remitto.standins.ticketshop.SignedCall;
import tools.jackson.databind.JsonNode;

/** The server, a process of its own here, is killed while other tools call it: whatever it answered with 200 is there, once. */
class CallsSurviveTest {
    private static final int CALLERS = 8;
    private static final int BEFORE_THE_KILL = 150;

    /** Calls without an end, each of its own event, and again with the same one where there was no answer. */
    private static final class Caller extends Thread {
        private final SignedCall tool;
        private final int number;
        private final Set<String> kept;
        private final AtomicBoolean over;
        private final HttpClient http = HttpClient.newHttpClient();

        Caller(SignedCall tool, int number, Set<String> kept, AtomicBoolean over) {
            this.tool = tool;
            this.number = number;
            this.kept = kept;
            this.over = over;
        }

        @Override
        public void run() {
            int event = 0;
            while (!over.get()) {
                String id = number + "-" + event;
                if (isKept(id)) {
                    kept.add(id);
                    event++;
                }
            }
        }

        /** Whoever is not answered waits a little, and leaves the machine to the server. */
        private static boolean isLater() {
            try {
                TimeUnit.MILLISECONDS.sleep(100);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            return false;
        }

        private boolean isKept(String id) {
            try {
                HttpResponse<String> answer = http.send(
                        tool.of(id, "{\"id\":\"" + id + "\"}", Instant.now()), HttpResponse.BodyHandlers.ofString());
                return answer.statusCode() == 200;
            } catch (IOException e) {
                return isLater();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return false;
            }
        }
    }

    private static Map<String, Object> receiver(long source) {
        return Map.of(
                "name",
                "Events",
                "sourceId",
                source,
                "table",
                "events",
                "basedOn",
                0,
                "definition",
                Map.of(
                        "check",
                        Map.of("kind", "standard-webhooks"),
                        "records",
                        "",
                        "columns",
                        List.of(Map.of("name", "id", "from", "id", "type", "TEXT", "spelling", "")),
                        "eventKey",
                        "",
                        "several",
                        Map.of("kind", "every-call-adds"),
                        "zone",
                        "UTC",
                        "keepDays",
                        0,
                        "callsPerMinute",
                        600_000,
                        "mostKilobytes",
                        64));
    }

    @Test
    void whatWasAnsweredIsThereOnceHoweverTheServerEnds() throws Exception {
        try (Stack stack = Stack.withoutServer(20)) {
            int port = Berth.port();
            ServerProcess first = ServerProcess.start(stack, port);
            List<Caller> callers = new ArrayList<>();
            AtomicBoolean over = new AtomicBoolean();
            Set<String> kept = new ConcurrentSkipListSet<>();
            try {
                Api api = first.api();
                long source = api.post("/api/sources", Map.of("name", "Calls", "address", Map.of("kind", "calls")))
                        .get("id")
                        .asLong();
                long id = api.post("/api/receivers", receiver(source)).get("id").asLong();
                JsonNode address = api.post("/api/receivers/" + id + "/address/show", Map.of());
                SignedCall tool = new SignedCall(
                        URI.create(address.get("url").asString()),
                        address.get("secret").asString());
                for (int i = 0; i < CALLERS; i++) {
                    callers.add(new Caller(tool, i, kept, over));
                }
                callers.forEach(Thread::start);
                await(() -> kept.size() > BEFORE_THE_KILL);
                first.kill();
                int before = kept.size();
                ServerProcess second = ServerProcess.start(stack, port);
                try {
                    await(() -> kept.size() > before + BEFORE_THE_KILL);
                    over.set(true);
                    for (Caller caller : callers) {
                        caller.join();
                    }
                    await(() -> second.api()
                                    .get("/api/receivers/" + id)
                                    .get("counts")
                                    .get("waiting")
                                    .asLong()
                            == 0);
                    List<String> landed = landed(stack);
                    assertThat(new TreeSet<>(landed)).as("none is lost").containsAll(kept);
                    assertThat(landed).as("none is there twice").doesNotHaveDuplicates();
                } finally {
                    second.kill();
                }
            } finally {
                over.set(true);
                first.kill();
            }
        }
    }

    private static List<String> landed(Stack stack) throws SQLException {
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("select id from landed.events")) {
            List<String> ids = new ArrayList<>();
            while (rows.next()) {
                ids.add(rows.getString(1));
            }
            return ids;
        }
    }

    private interface Asked {
        boolean isSo() throws Exception;
    }

    private static void await(Asked asked) throws Exception {
        long start = System.nanoTime();
        while (!asked.isSo()) {
            assertThat(System.nanoTime() - start)
                    .as("what is waited for comes about")
                    .isLessThan(TimeUnit.MINUTES.toNanos(5));
            TimeUnit.MILLISECONDS.sleep(20);
        }
    }
}
