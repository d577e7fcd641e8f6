package remitto.server.receiver;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.receiver.CallHeaders;
import remitto.core.receiver.CallVerdict;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Calls as they were kept. */
@Component
class CallLog {
    private static final int SHOWN_BODY = 100_000;
    private static final String COLUMNS =
            "id, received_at, verdict, records, rows, problem, octet_length(body) as bytes, revision";

    private final JdbcClient jdbc;
    private final Json json;

    CallLog(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /**
     * A call.
     *
     * @param records how many records its body holds; 0 before it was laid out
     * @param rows how many of them became rows; of those that are missing the event was known, or they are held
     * @param problem what does not fit, or why it was refused; blank if nothing
     * @param bytes of its body; of a refused call at most 2,000 are kept
     */
    record ReceivedCall(
            long id,
            Instant receivedAt,
            CallVerdict verdict,
            int records,
            int rows,
            @Personal(Personal.Part.IN_TEXT) String problem,
            long bytes) {}

    /**
     * A call with all that was kept of it.
     *
     * @param headers by their names in small letters; secrets are dots
     * @param body as text; bytes that are no UTF-8 are replaced, and all beyond 100,000 bytes are left out
     */
    record WholeCall(
            ReceivedCall call,
            @Personal Map<String, String> headers,
            @Personal String body) {}

    /** A kept call, to be looked at as a sample. */
    record SampleCall(long id, CallHeaders headers, byte[] body) {}

    /**
     * The latest first.
     *
     * @param before id of a call that newer ones and itself are left out from; 0 for none
     */
    List<ReceivedCall> calls(long receiver, Optional<CallVerdict> verdict, long before, int most) {
        return jdbc.sql("select " + COLUMNS + " from received_call where receiver_id = :receiver"
                        + " and (:before = 0 or id < :before) and (:verdict = '' or verdict = :verdict)"
                        + " order by id desc limit :most")
                .param("receiver", receiver)
                .param("before", before)
                .param("verdict", verdict.map(Enum::name).orElse(""))
                .param("most", most)
                .query((row, number) -> call(row))
                .list();
    }

    WholeCall whole(long receiver, long id) {
        return jdbc.sql("select " + COLUMNS + ", headers, substr(body, 1, " + SHOWN_BODY
                        + ") as body from received_call where receiver_id = ? and id = ?")
                .params(receiver, id)
                .query((row, number) -> new WholeCall(
                        call(row),
                        headers(row).values(),
                        new String(row.getBytes("body"), java.nio.charset.StandardCharsets.UTF_8)))
                .optional()
                .orElseThrow(() -> Problem.notFound("call " + id));
    }

    /** The latest ones that were not refused, the newest first. */
    List<SampleCall> samples(long receiver, int most) {
        return jdbc.sql("""
                        select id, headers, body from received_call where receiver_id = ? and verdict <> 'REFUSED'
                        order by id desc limit ?
                        """)
                .params(receiver, most)
                .query((row, number) -> new SampleCall(row.getLong("id"), headers(row), row.getBytes("body")))
                .list();
    }

    @SuppressWarnings("unchecked")
    private CallHeaders headers(ResultSet row) throws SQLException {
        return new CallHeaders(json.read(row.getString("headers"), Map.class));
    }

    private static ReceivedCall call(ResultSet row) throws SQLException {
        return new ReceivedCall(
                row.getLong("id"),
                Rows.time(row, "received_at"),
                CallVerdict.valueOf(row.getString("verdict")),
                row.getInt("records"),
                row.getInt("rows"),
                row.getString("problem"),
                row.getLong("bytes"));
    }
}
