package remitto.connect.profile;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.connect.destination.Destination.Batch;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Exchange;
import remitto.connect.destination.Destination.FieldProblem;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.Destination.RecordResult;
import remitto.core.value.JsonForm;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Writes batches as a profile says, and reads what came of each record. */
final class ProfileWriter {
    /** Bytes of a request that are kept to be looked at; only a call of many records is longer. */
    private static final int SHOWN = 32_768;

    private final Profile profile;
    private final ApiClient apiClient;
    private final ObjectMapper json;

    ProfileWriter(Profile profile, ApiClient apiClient, ObjectMapper json) {
        this.profile = profile;
        this.apiClient = apiClient;
        this.json = json;
    }

    CallOutcome write(Profile.Write how, Batch batch) {
        WriteCall call = new WriteCall(how, batch, apiClient::setting, json);
        byte[] body;
        String path;
        Map<String, String> headers;
        try {
            body = call.body();
            path = call.path();
            headers = call.headers();
        } catch (WriteCall.NoValue e) {
            return refused(how, batch, String.valueOf(e.getMessage()));
        }
        boolean answerRead = profile.results().items().isPresent() || how.job().isPresent();
        try {
            Reply reply = apiClient.writing(how.method(), path, body, headers, answerRead, batch.leave());
            Exchange exchange = exchange(how.method(), path, body, reply);
            if (reply.throttled()) {
                reply.retryAfter().ifPresent(apiClient::pauseAll);
                return new CallOutcome.Throttled(reply.retryAfter());
            }
            if (reply.status() >= 300 && how.ofOneRecord() && profile.results().saysOfOne(reply.status())) {
                return one(reply, batch, exchange);
            }
            if (reply.status() >= 300) {
                return new CallOutcome.Failed(
                        reply.status(), apiClient.problem(reply), profile.retriable(reply.status()), exchange);
            }
            return how.job().isPresent()
                    ? afterwards(how, how.job().get(), reply, batch, exchange)
                    : results(how, reply, batch, exchange);
        } catch (CallFailure.NotSent e) {
            return new CallOutcome.NotSent(String.valueOf(e.getMessage()));
        } catch (CallFailure.Unknown e) {
            return new CallOutcome.Unknown(String.valueOf(e.getMessage()));
        }
    }

    /** A record that no call can be made of. */
    private static CallOutcome refused(Profile.Write how, Batch batch, String why) {
        RecordResult result =
                new RecordResult(false, false, why, batch.records().get(0).id(), List.of());
        return new CallOutcome.Answered(List.of(result), new Exchange(how.method(), how.path(), "", 0, ""));
    }

    /** A call about one record that was refused for what the record is. */
    private CallOutcome one(Reply reply, Batch batch, Exchange exchange) {
        RecordResult result = new RecordResult(
                false,
                profile.results().movedOnStatus().orElse(List.of()).contains(reply.status()),
                apiClient.problem(reply),
                batch.records().get(0).id(),
                List.of());
        return new CallOutcome.Answered(List.of(result), exchange);
    }

    /** Follows a job to its end. It was submitted: if its end is not seen, nobody knows its outcome. */
    private CallOutcome afterwards(Profile.Write how, Profile.Job job, Reply receipt, Batch batch, Exchange exchange) {
        String id = receipt.body().at(job.id()).asString("");
        if (id.isEmpty()) {
            return new CallOutcome.Unknown("the receipt names no job: " + ApiClient.shorten(receipt.text()));
        }
        String path = Template.path(job.path(), Map.of("job", id));
        long until =
                System.nanoTime() + Duration.ofSeconds(job.longestSeconds()).toNanos();
        while (System.nanoTime() < until) {
            Reply told;
            try {
                told = apiClient.reading("GET", path, Optional.empty());
            } catch (remitto.connect.destination.DestinationProblem e) {
                return new CallOutcome.Unknown(
                        "job " + id + " was submitted, but its end was not seen: " + e.getMessage());
            }
            String state = told.body().at(job.state()).asString("");
            if (job.done().contains(state)) {
                return results(how, told, batch, with(exchange, told));
            }
            if (job.failed().contains(state)) {
                return new CallOutcome.Failed(told.status(), apiClient.problem(told), false, with(exchange, told));
            }
            ApiClient.waitFor(Duration.ofMillis(job.everyMillis()));
        }
        return new CallOutcome.Unknown("job " + id + " did not end within " + job.longestSeconds() + " s");
    }

    private static Exchange with(Exchange exchange, Reply told) {
        return new Exchange(exchange.method(), exchange.address(), exchange.request(), told.status(), told.text());
    }

    private CallOutcome results(Profile.Write how, Reply reply, Batch batch, Exchange exchange) {
        int expected = batch.records().size();
        var places = profile.results();
        if (places.items().isEmpty()) {
            List<RecordResult> all = new ArrayList<>();
            batch.records()
                    .forEach(record -> all.add(new RecordResult(true, false, "accepted", ownId(record), List.of())));
            return new CallOutcome.Answered(all, exchange);
        }
        JsonNode items = reply.body().at(places.items().get());
        if (how.ofOneRecord() && items.isObject()) {
            return new CallOutcome.Answered(
                    List.of(result(items, batch.records().get(0))), exchange);
        }
        if (!items.isArray() || items.size() != expected) {
            return new CallOutcome.Unknown("The answer does not hold a result for each of the " + expected
                    + " records: " + ApiClient.shorten(reply.text()));
        }
        RecordResult[] results = new RecordResult[expected];
        int counted = 0;
        for (JsonNode item : items) {
            int at = counted++;
            int position = places.position()
                    .map(place -> item.at(place).asInt(at))
                    .filter(found -> found >= 0 && found < expected)
                    .orElse(at);
            results[position] = result(item, batch.records().get(position));
        }
        for (RecordResult result : results) {
            if (result == null) {
                return new CallOutcome.Unknown(
                        "The answer names a record twice and another not at all: " + ApiClient.shorten(reply.text()));
            }
        }
        return new CallOutcome.Answered(List.of(results), exchange);
    }

    private RecordResult result(JsonNode item, Outgoing record) {
        var places = profile.results();
        String word = places.outcome().map(place -> item.at(place).asString("")).orElse("");
        List<FieldProblem> problems = new ArrayList<>();
        places.problems().ifPresent(place -> item.at(place)
                .forEach(problem -> problems.add(new FieldProblem(
                        said(problem, places.problemField()), said(problem, places.problemMessage())))));
        return new RecordResult(
                places.outcome().isEmpty()
                        ? problems.isEmpty()
                        : places.accepted().orElse(List.of()).contains(word),
                places.movedOn().orElse(List.of()).contains(word),
                word,
                places.id()
                        .map(place -> item.at(place).asString(""))
                        .map(id -> id.isEmpty() ? record.id() : id)
                        .orElseGet(() -> ownId(record)),
                problems);
    }

    private static String said(JsonNode problem, Optional<String> place) {
        return place.map(name -> problem.at(name).asString("")).orElse("");
    }

    /** The id of a record the tool knows by its key. */
    private static String ownId(Outgoing record) {
        return record.id().isEmpty()
                ? JsonForm.write(record.key()).map(Object::toString).orElse("")
                : record.id();
    }

    private Exchange exchange(String method, String path, byte[] body, Reply reply) {
        return new Exchange(
                method,
                apiClient.address(path).toString(),
                new String(body, 0, Math.min(body.length, SHOWN), StandardCharsets.UTF_8),
                reply.status(),
                reply.text());
    }
}
