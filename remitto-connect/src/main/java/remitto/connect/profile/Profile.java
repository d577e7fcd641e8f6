package remitto.connect.profile;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.destination.FieldKind;
import tools.jackson.databind.JsonNode;

/**
 * How a destination's HTTP API works. Places in answers are JSON Pointers (RFC 6901); in bodies a text that is
 * exactly {@code "{name}"} is replaced by a value, in paths {@code {name}} by its text.
 */
public record Profile(
        String profile,
        String title,
        Confirm confirm,
        Optional<Integer> showsWritesAfterSeconds,
        List<Setting> connection,
        Authentication authentication,
        Limits limits,
        Optional<List<Integer>> retryStatus,
        Optional<String> problemMessage,
        Optional<Call> check,
        Objects objects,
        Fields fields,
        Optional<Find> find,
        Optional<Listing> list,
        Write add,
        Optional<Write> update,
        Optional<Write> remove,
        Results results) {

    /** How the outcome of a write that got no answer is found out. */
    public enum Confirm {
        /** The same call is made again under the same key; the tool sees to it that it takes effect once. */
        KEY,
        /** The record is looked up. */
        READBACK,
        /** It cannot be found out; a person decides. */
        NONE
    }

    public record Setting(String name, String label, Optional<String> example, Optional<Boolean> secret) {
        public boolean isSecret() {
            return secret.orElse(false);
        }
    }

    /**
     * How calls are signed in.
     *
     * @param kind {@code oauth2-client-credentials}, {@code api-key}, {@code standard-webhooks} (every call is signed) or
     *     {@code none}
     * @param clientId name of the setting that holds it, as are {@code clientSecret} and {@code key}
     * @param header that carries the key
     */
    public record Authentication(
            String kind,
            Optional<String> tokenPath,
            Optional<String> clientId,
            Optional<String> clientSecret,
            Optional<String> header,
            Optional<String> key) {}

    public record Limits(
            int calls,
            int periodSeconds,
            int concurrency,
            int recordsPerCall,
            int bytesPerCall,
            int longestCallSeconds) {}

    public record Call(String method, String path) {}

    /**
     * What kinds of things there are: by a call, or the same everywhere.
     *
     * @param list place of the flag that says the object is a list of members
     */
    public record Objects(
            Optional<String> method,
            Optional<String> path,
            Optional<String> items,
            Optional<String> name,
            Optional<String> title,
            Optional<String> people,
            Optional<String> list,
            Optional<List<FixedObject>> fixed) {}

    public record FixedObject(String name, String title, Optional<Boolean> people, Optional<Boolean> list) {}

    /** The fields of an object: by a call, or the same everywhere. */
    public record Fields(
            Optional<String> method,
            Optional<String> path,
            Optional<String> items,
            Optional<String> name,
            Optional<String> title,
            Optional<String> kind,
            Optional<String> required,
            Optional<String> unique,
            Optional<String> readOnly,
            Optional<String> writable,
            Optional<String> custom,
            Optional<String> maxLength,
            Optional<String> choices,
            Optional<Map<String, FieldKind>> kinds,
            Optional<List<FixedField>> fixed,
            Optional<String> fromSetting) {}

    public record FixedField(
            String name,
            String title,
            FieldKind kind,
            Optional<Boolean> required,
            Optional<Boolean> unique,
            Optional<Integer> maxLength) {}

    /** @param byId what the tool calls its own id when records are looked up by it; {@code id} unless said */
    public record Find(
            String method,
            String path,
            JsonNode body,
            String items,
            String id,
            String fields,
            Optional<Stamps> stamps,
            Optional<String> byId) {}

    /**
     * When and by whom each field of a record was last written.
     *
     * @param place of an object that holds one entry a field
     * @param at place of the time in such an entry (ISO 8601)
     * @param by place of who wrote it
     * @param us connection setting that holds the name the tool gives our login
     */
    public record Stamps(String place, String at, String by, String us) {}

    /**
     * Every record, or those changed since a moment, page by page.
     *
     * @param deleted place of the flag of a record that was deleted
     * @param next place of the cursor of the page that follows; no value there ends the list
     */
    public record Listing(
            String method,
            String path,
            String items,
            String id,
            String fields,
            Optional<String> deleted,
            String next,
            Optional<Stamps> stamps) {}

    /**
     * A writing call.
     *
     * @param onceHeader header that carries the key under which the call takes effect once
     * @param job present when the answer is a receipt, and the results come by polling
     * @param contentType of the body, where it is not plain JSON
     */
    public record Write(
            String method,
            String path,
            JsonNode body,
            JsonNode record,
            Optional<String> onceHeader,
            Optional<Job> job,
            Optional<String> contentType) {}

    /**
     * Work that goes on after the call.
     *
     * @param id place of the job's id in the receipt
     * @param path of the call that tells how far it is, with {@code {job}}
     * @param state place of its state; {@code done} and {@code failed} are the words that end it
     */
    public record Job(
            String id,
            String path,
            String state,
            List<String> done,
            List<String> failed,
            int everyMillis,
            int longestSeconds) {}

    /**
     * Where the result of each record stands.
     *
     * @param items absent when an answer without an error means that every record was taken
     * @param id absent when the tool knows the record by its key
     */
    public record Results(
            Optional<String> items,
            Optional<String> position,
            Optional<String> outcome,
            Optional<List<String>> accepted,
            Optional<List<String>> movedOn,
            Optional<String> id,
            Optional<String> problems,
            Optional<String> problemField,
            Optional<String> problemMessage) {}

    public boolean retriable(int status) {
        return retryStatus.orElse(List.of(429, 500, 502, 503, 504)).contains(status);
    }
}
