package remitto.connect.profile;

import com.fasterxml.jackson.annotation.JsonFormat;
import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import remitto.core.destination.FieldKind;
import remitto.core.manifest.Verdict;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;

/**
 * How a destination's HTTP API works. Places in answers are JSON Pointers (RFC 6901); in bodies a text that is
 * exactly {@code "{name}"} is replaced by a value, elsewhere {@code {name}} by its text.
 *
 * @param recordPage address of the tool's own page of a record, with {@code {object}} and {@code {id}}
 */
public record Profile(
        String profile,
        String title,
        Optional<Speaks> speaks,
        Confirm confirm,
        Optional<Integer> showsWritesAfterSeconds,
        List<Setting> connection,

        @JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY)
        List<Authentication> authentication,

        Optional<Map<String, String>> headers,
        Optional<Accounts> accounts,
        Optional<List<Prerequisite>> prerequisites,
        Limits limits,
        Optional<List<Integer>> retryStatus,
        Optional<String> problemMessage,
        Optional<Call> check,
        Objects objects,
        Fields fields,
        Optional<Answers> answers,
        Optional<Find> find,
        Optional<Listing> list,
        Write add,
        Optional<Write> update,
        Optional<Write> remove,
        Results results,
        Optional<String> recordPage) {

    /** A part that a text leaves out is read as a null node. */
    private static Optional<JsonNode> said(Optional<JsonNode> node) {
        return node.filter(one -> !one.isNull() && !one.isMissingNode());
    }

    /** True when all that a run sends is one file. */
    public boolean takesFiles() {
        return speaks.filter(how -> how == Speaks.SFTP || how == Speaks.FOLDER).isPresent();
    }

    /** How a destination is spoken to. */
    public enum Speaks {
        HTTP,
        /** A database says itself what its tables are; nothing else in the profile is about calls. */
        POSTGRESQL,
        /** Files are put on another machine; what they hold is laid out with the destination. */
        SFTP,
        /** Files are put in a folder of this machine. */
        FOLDER
    }

    /** How the outcome of a write that got no answer is found out. */
    public enum Confirm {
        /** The same call is made again under the same key; the tool sees to it that it takes effect once. */
        KEY,
        /** The record is looked up. */
        READBACK,
        /** It cannot be found out; a person decides. */
        NONE
    }

    /**
     * What a person fills in.
     *
     * @param ways names of the ways to sign in that need it; all unless said
     */
    public record Setting(
            String name,
            String label,
            Optional<String> example,
            Optional<Boolean> secret,
            Optional<List<String>> ways) {
        public boolean isSecret() {
            return secret.orElse(false);
        }
    }

    /**
     * A way to sign calls in. Where a profile has several, a person chooses.
     *
     * @param name by which the choice is kept
     * @param tokenPath where tokens are given, a path or a full address, as is {@code authorizePath}, where a person signs in
     * @param scope what is asked for, names separated by spaces
     * @param clientId name of the setting that holds it, as are {@code clientSecret}, {@code key}, {@code user} and
     *     {@code password}
     * @param header that carries the key
     */
    public record Authentication(
            Optional<String> name,
            Optional<String> title,
            Kind kind,
            Optional<String> tokenPath,
            Optional<String> authorizePath,
            Optional<String> scope,
            Optional<String> clientId,
            Optional<String> clientSecret,
            Optional<String> header,
            Optional<String> key,
            Optional<String> user,
            Optional<String> password) {

        /** The usual ways. */
        public enum Kind {
            /** A token by client credentials (RFC 6749, section 4.4). */
            @JsonProperty("oauth2-client-credentials")
            CLIENT_CREDENTIALS,
            /** A person signs in at the tool (RFC 6749, section 4.1, with RFC 7636). */
            @JsonProperty("oauth2-code")
            DELEGATED,
            /** A key in a header of the profile's choice. */
            @JsonProperty("api-key")
            API_KEY,
            /** A token that does not change (RFC 6750). */
            @JsonProperty("bearer")
            BEARER,
            /** User and password (RFC 7617). */
            @JsonProperty("basic")
            BASIC,
            /** Every call is signed. */
            @JsonProperty("standard-webhooks")
            STANDARD_WEBHOOKS,
            /** The address is the secret. */
            @JsonProperty("none")
            NONE
        }
    }

    /**
     * The accounts a login reaches, of which a person chooses one.
     *
     * @param setting connection setting that keeps the choice
     */
    public record Accounts(
            String method, String path, String items, String id, Optional<String> title, String setting) {}

    /**
     * What must have been done in the tool before it can be used.
     *
     * @param why what does not work without it
     * @param lost present when it can be left out: what is lost then
     * @param check how it is found out; a person ticks it off where there is none
     */
    public record Prerequisite(
            String name, String title, Optional<String> why, Optional<String> lost, Optional<Ask> check) {}

    /**
     * A call whose answer says whether something is as it must be.
     *
     * @param is what stands at the place
     * @param holds what is one of the values of the list at the place
     */
    public record Ask(String method, String path, String place, Optional<String> is, Optional<String> holds) {}

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
     * @param found place of how many of its members the tool found somebody for
     */
    public record Objects(
            Optional<String> method,
            Optional<String> path,
            Optional<String> items,
            Optional<String> name,
            Optional<String> title,
            Optional<String> people,
            Optional<String> list,
            Optional<String> found,
            Optional<String> size,
            Optional<String> smallest,
            Optional<MakeList> create,
            Optional<List<FixedObject>> fixed) {}

    /**
     * Makes a list that {@code {title}} names.
     *
     * @param id place of its id in the answer
     */
    public record MakeList(String method, String path, JsonNode body, String id) {}

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
            Optional<String> theirs,
            Optional<Map<String, FieldKind>> kinds,
            Optional<List<FixedField>> fixed,
            Optional<String> fromSetting) {}

    /**
     * What people say there themselves, such as that they want no more mail.
     *
     * @param object that holds people
     * @param address field of their e-mail address or phone number
     * @param field that holds what they said
     * @param no the values of it that mean no
     */
    public record Answers(String object, String address, String field, List<String> no) {}

    public record FixedField(
            String name,
            String title,
            FieldKind kind,
            Optional<Boolean> required,
            Optional<Boolean> unique,
            Optional<Integer> maxLength) {}

    /**
     * Looks records up by the values of a field; {@code {values}} stands for many, {@code {value}} for one at a time.
     *
     * @param byId what the tool calls its own id when records are looked up by it; {@code id} unless said
     */
    public record Find(
            String method,
            String path,
            Optional<JsonNode> body,
            String items,
            String id,
            String fields,
            Optional<Stamps> stamps,
            Optional<String> byId) {
        public Find {
            body = said(body);
        }

        /** True when a call asks for one value. */
        boolean oneByOne() {
            return Stream.concat(Stream.of(JsonNodeFactory.instance.stringNode(path)), body.stream())
                    .flatMap(node -> Placeholders.used(node).stream())
                    .anyMatch("value"::equals);
        }
    }

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
     * @param body where the list is asked for by one; {@code {cursor}}, {@code {since}} and {@code {size}} are filled in
     * @param deleted place of the flag of a record that was deleted
     * @param next place of the cursor of the page that follows, where pages go by cursor; no value there ends the list
     * @param paging how pages follow each other, where not by cursor
     */
    public record Listing(
            String method,
            String path,
            Optional<JsonNode> body,
            String items,
            String id,
            String fields,
            Optional<String> deleted,
            Optional<String> next,
            Optional<Paging> paging,
            Optional<Stamps> stamps) {
        public Listing {
            body = said(body);
        }

        /** True when it can be asked for what changed since a moment, and tells what was deleted. */
        boolean tellsChanges() {
            return deleted.isPresent()
                    && Stream.concat(Stream.of(JsonNodeFactory.instance.stringNode(path)), body.stream())
                            .flatMap(node -> Placeholders.used(node).stream())
                            .anyMatch("since"::equals);
        }
    }

    /**
     * How pages follow each other. {@code {cursor}} in the path stands for where a page begins, {@code {size}} for how
     * many records it holds.
     *
     * @param first number of the first page; 1 unless said
     * @param size records a page, 100 unless said; a shorter page is the last
     * @param total place of how many records there are in all, which then ends the list
     */
    public record Paging(
            Kind kind, Optional<String> next, Optional<Integer> first, Optional<Integer> size, Optional<String> total) {

        /** The usual ways. */
        public enum Kind {
            /** The answer holds what the next call asks with. */
            CURSOR,
            /** By the number of records before. */
            OFFSET,
            /** By the number of the page. */
            PAGE,
            /** A Link header names the next address (RFC 8288). */
            LINK
        }

        static Paging byCursor(Optional<String> next) {
            return new Paging(Kind.CURSOR, next, Optional.empty(), Optional.empty(), Optional.empty());
        }
    }

    /**
     * A writing call.
     *
     * @param onceHeader header that carries the key under which the call takes effect once
     * @param job present when the answer is a receipt, and the results come by polling
     * @param headers of this call, with names filled in
     * @param contentType of the body, where it is not the usual one of its form
     * @param form how the body is written; JSON unless said
     */
    public record Write(
            String method,
            String path,
            Optional<JsonNode> body,
            Optional<JsonNode> record,
            Optional<String> onceHeader,
            Optional<Map<String, String>> headers,
            Optional<Job> job,
            Optional<String> contentType,
            Optional<BodyForm> form) {
        public Write {
            body = said(body);
            record = said(record);
        }

        BodyForm bodyAs() {
            return form.orElse(BodyForm.JSON);
        }

        /** True when the call can be about one record only, since its address, headers or body name that record. */
        boolean ofOneRecord() {
            return bodyAs() != BodyForm.JSON
                    || Stream.concat(
                                    Stream.of(JsonNodeFactory.instance.stringNode(path)),
                                    Stream.concat(
                                            headers.orElse(Map.of()).values().stream()
                                                    .map(JsonNodeFactory.instance::stringNode),
                                            body.stream()))
                            .flatMap(node -> Placeholders.used(node).stream())
                            .anyMatch(Placeholders::ofOneRecord);
        }
    }

    /** How the body of a writing call is written. */
    public enum BodyForm {
        /** JSON (RFC 8259). */
        JSON(Optional.empty()),
        /** Names and values, as web forms send them. */
        FORM(Optional.of("application/x-www-form-urlencoded")),
        /** A text with names filled in. */
        TEXT(Optional.of("text/plain; charset=utf-8"));

        private final Optional<String> type;

        BodyForm(Optional<String> type) {
            this.type = type;
        }

        /** Its media type, where it is not the one of every call. */
        Optional<String> type() {
            return type;
        }
    }

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
     * @param refusedStatus answers to a call about one record that refuse the record, and no more than that
     * @param movedOnStatus of them, those that say the record was there when it should not be, or the other way round
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
            Optional<String> problemMessage,
            Optional<List<Integer>> refusedStatus,
            Optional<List<Integer>> movedOnStatus) {
        /** True when an answer is about the one record that was sent. */
        boolean saysOfOne(int status) {
            return refusedStatus.orElse(List.of()).contains(status)
                    || movedOnStatus.orElse(List.of()).contains(status);
        }
    }

    /** Records in one call of a kind; one where the call is about a single record. */
    public int recordsPerCall(Verdict verdict) {
        Optional<Write> how =
                switch (verdict) {
                    case ADDED -> Optional.of(add);
                    case REMOVED -> remove;
                    default -> update;
                };
        return how.filter(Write::ofOneRecord).isPresent() ? 1 : limits.recordsPerCall();
    }

    /** The way to sign in of that name; the first where no name is given. */
    public Authentication way(String name) {
        return authentication.stream()
                .filter(one -> one.name().orElse("").equals(name))
                .findFirst()
                .orElse(authentication.get(0));
    }

    public boolean retriable(int status) {
        return retryStatus.orElse(List.of(429, 500, 502, 503, 504)).contains(status);
    }
}
