package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Two server processes on one database: a run is owned by one, the limit is shared, and who dies is replaced. */
class TwoServersTest {
    private static final Duration WINDOW = Duration.ofSeconds(3);
    private static final int ALLOWED = 10;

    /** How late a call may arrive after it was let go, on a machine that is busy with other things. */
    private static final Duration HELD_UP = WINDOW.dividedBy(2);

    private Stack stack;
    private ServerProcess one;
    private ServerProcess other;

    @BeforeEach
    void start() throws Exception {
        stack = Stack.withoutServer(2_500);
        one = ServerProcess.start(stack, Berth.port());
        other = ServerProcess.start(stack, Berth.port());
    }

    @AfterEach
    void stop() throws Exception {
        one.kill();
        other.kill();
        stack.close();
    }

    private static long prepare(Api api, long route) {
        return api.post("/api/routes/" + route + "/runs", Map.of()).get("runId").asLong();
    }

    @Test
    void aRunIsOwnedByOneTheLimitIsSharedAndWhoDiesIsReplaced() throws Exception {
        Scenario.Ids ids = new Scenario(one.api()).setUp(stack.places());
        lowLimit(one.api());
        int before = awake(ids.purser());
        long passes = prepare(one.api(), ids.passes());
        long freight = prepare(other.api(), ids.freight());
        long added = one.api().await(passes).get("counts").get("added").asLong();
        assertThat(other.api().await(freight).get("state").asString()).isEqualTo("READY");
        one.api().post("/api/runs/" + passes + "/send", Map.of());
        other.api().post("/api/runs/" + freight + "/send", Map.of());
        assertThat(one.api().await(passes).get("state").asString()).isEqualTo("SENT");
        assertThat(other.api().await(freight).get("state").asString()).isEqualTo("SENT");
        assertThat(owners(passes, freight))
                .as("each by the server that was asked")
                .hasSize(2);
        assertThat(new WriteLog(stack.folder).effects("contact")).hasSize((int) added);
        stack.assertNothingDoubled();
        limitWasKept(before);
        aSendingServerIsReplaced(ids);
    }

    /** One that both servers together reach many times over. */
    private static void lowLimit(Api api) {
        String text = api.get("/api/profiles/purser-crm").get("text").asString();
        assertThat(text).contains("calls: 120", "period_seconds: 12", "records_per_call: 250");
        api.post(
                "/api/profiles/purser-crm/versions",
                Map.of(
                        "basedOn",
                        1,
                        "note",
                        "a low limit",
                        "text",
                        text.replace("calls: 120", "calls: " + ALLOWED)
                                .replace("period_seconds: 12", "period_seconds: " + WINDOW.toSeconds())
                                .replace("records_per_call: 250", "records_per_call: 60")));
        api.post("/api/profiles/purser-crm/in-service", Map.of("version", 2));
    }

    private void aSendingServerIsReplaced(Scenario.Ids ids) throws Exception {
        stack.desk.limit(false);
        stack.change("update ferry.pass_holders set given_name = given_name || 'x' where status = 'active'");
        long run = prepare(one.api(), ids.passes());
        long changed = one.api().await(run).get("counts").get("changed").asLong();
        assertThat(changed).isPositive();
        Map<String, Integer> before = new WriteLog(stack.folder).effects("contact");
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":350}]");
        one.api().post("/api/runs/" + run + "/send", Map.of());
        while (new WriteLog(stack.folder).effects("contact").equals(before)) {
            TimeUnit.MILLISECONDS.sleep(5);
        }
        one.kill();
        stack.desk.faults("[]");
        JsonNode done = other.api().await(run);
        assertThat(done.get("state").asString()).isEqualTo("SENT");
        assertThat(done.get("outcomes").get("ACKNOWLEDGED").asLong()).isEqualTo(changed);
        Map<String, Integer> after = new WriteLog(stack.folder).effects("contact");
        assertThat(after.entrySet().stream().filter(entry -> entry.getKey().startsWith("write")))
                .hasSize((int) changed);
        stack.assertNothingDoubled();
    }

    private Set<String> owners(long... runs) throws Exception {
        Set<String> owners = new HashSet<>();
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement()) {
            for (long run : runs) {
                try (ResultSet row = statement.executeQuery("select owner from run where id = " + run)) {
                    row.next();
                    owners.add(row.getString(1));
                }
            }
        }
        return owners;
    }

    /**
     * The first call of a process is late, for what it has to load, so that those after it are nearer to it than they were allowed.
     *
     * @return how many calls there were before the lower limit was in force and both servers had made theirs
     */
    private int awake(long destination) {
        one.api().post("/api/destinations/" + destination + "/test", Map.of());
        other.api().post("/api/destinations/" + destination + "/test", Map.of());
        return calls().size();
    }

    private List<Instant> calls() {
        List<Instant> calls = new ArrayList<>();
        for (JsonNode call : JsonMapper.builder().build().readTree(stack.desk.calls(0))) {
            if (call.get("path").asString().startsWith("/api")
                    || call.get("path").asString().startsWith("/oauth")) {
                calls.add(Instant.parse(call.get("at").asString()));
            }
        }
        return calls;
    }

    /**
     * Each call arrived when it was let go or later, by up to what this machine may hold it up on its way; those times of letting
     * go are as far apart as the limit says. Two servers that do not share the limit run away from that within two windows.
     */
    private void limitWasKept(int before) {
        List<Instant> calls = calls().subList(before, calls().size());
        assertThat(calls).as("the limit is reached several times").hasSizeGreaterThan(4 * ALLOWED);
        Duration apart = WINDOW.dividedBy(ALLOWED);
        Instant letGo = calls.get(0).minus(HELD_UP);
        for (int i = 1; i < calls.size(); i++) {
            Instant next = letGo.plus(apart);
            Instant earliest = calls.get(i).minus(HELD_UP);
            letGo = next.isAfter(earliest) ? next : earliest;
            assertThat(calls.get(i)).as("call " + i).isAfterOrEqualTo(letGo);
        }
    }
}
