package remitto.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/**
 * The database ended and is there again, and forgot the answer to a call that it had been told of last, as it may (outcomes do not wait
 * for the disk). The process that was told knows better, and the run was never anybody else's.
 */
class ForgottenAnswerTest {
    private static final int ROWS = 3_000;

    private TestServer server;
    private TestUser editor;
    private TestRoute shop;

    @BeforeEach
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        server.warehouse().customers(ROWS);
        shop = new TestRoute(server, editor);
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private String text(String sql) {
        return server.cluster().text(server.database(), sql);
    }

    @Test
    void theRunGoesOnAndNothingOfItIsLeftBehind() {
        long route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        long id = shop.prepare(route).get("id").asLong();
        server.cluster().run(server.database(), """
                create sequence forgotten;
                grant usage on sequence forgotten to public;
                create function forget() returns trigger language plpgsql as $$
                  begin
                    if nextval('forgotten') = 1 then
                      return old;
                    end if;
                    return new;
                  end $$;
                create trigger forget before update on open_call for each row
                  when (old.answered_at is null and new.answered_at is not null) execute function forget();
                """);
        editor.post("/api/runs/" + id + "/send", Map.of()).ok();
        JsonNode ended = Awaited.value(
                "the run has ended",
                () -> editor.get("/api/runs/" + id).ok(),
                run -> !run.get("state").asString().equals("SENDING"));
        assertThat(Integer.parseInt(text("select last_value from forgotten")))
                .as("answers that were told, the first of them in vain")
                .isGreaterThan(1);
        assertThat(ended.get("state").asString()).isEqualTo("SENT");
        // Those that are found there already are set aside, and adopted by the next run.
        assertThat(ended.get("outcomes").get("ACKNOWLEDGED").asLong()
                        + ended.get("outcomes").path("MOVED_ON").asLong())
                .isEqualTo(ROWS);
        assertThat(text("select count(*) from open_call where run_id = " + id)).isEqualTo("0");
        assertThat(server.warehouse().text("select count(*) from mail.recipients"))
                .isEqualTo(Integer.toString(ROWS));
    }
}
