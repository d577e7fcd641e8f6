package remitto.bench.crash;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.destination.FieldKind;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.file.FileColumn;
import remitto.core.file.FileContent;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.file.FileName;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/**
 * A route for each way of finding out what became of a call: one that is read back, with leavers that are deleted; a list kept by
 * jobs that know their key; messages whose outcome cannot be found out; a file; and one whose manifests are taken back again.
 */
final class CrashRoutes {
    static final String FILE_FOLDER = "handed-over";
    private static final String LIST = "commuters";

    private final Api api;
    private final Scenario scenario;

    CrashRoutes(Api api) {
        this.api = api;
        this.scenario = new Scenario(api);
    }

    /** Where everything is. */
    record Places(
            int warehousePort, String purser, String lamplight, String foghorn, String reader, String readerPassword) {}

    /** The routes, in the order they are run. */
    record Ids(long contacts, long list, long notices, long file, long piers) {
        List<Long> all() {
            return List.of(contacts, list, notices, file, piers);
        }
    }

    Ids setUp(Places places) {
        long source = id(api.post(
                "/api/sources",
                Map.of(
                        "name",
                        "Halvorn warehouse",
                        "address",
                        Map.of(
                                "host",
                                "127.0.0.1",
                                "port",
                                places.warehousePort(),
                                "database",
                                "halvorn",
                                "user",
                                places.reader(),
                                "tls",
                                "OFF"),
                        "password",
                        places.readerPassword())));
        long holders =
                scenario.dataset(source, "Pass holders", "Who holds a pass", Sea.HOLDERS, Map.of("pass_number", "KEY"));
        long letters = scenario.dataset(source, "Letters", "Who agreed to mail", Sea.LETTERS, Map.of("email", "KEY"));
        long notices = scenario.dataset(source, "Notices", "For the harbour office", Sea.NOTICES, Map.of("ref", "KEY"));
        long piers = scenario.dataset(
                source, "Piers", "Who runs the piers that we call at", Sea.PIERS, Map.of("vat_number", "KEY"));
        long purser = destination(
                "Purser CRM",
                "purser-crm",
                Map.of(
                        "base_address",
                        places.purser(),
                        "client_id",
                        "remitto-demo",
                        "client_secret",
                        "gangplank-7731"));
        long lamplight = destination(
                "Lamplight Ads",
                "lamplight-ads",
                Map.of("base_address", places.lamplight(), "lamp_key", "lamp-4410-halvorn", "account", "HAL-1"));
        long foghorn = destination(
                "Foghorn Chat", "foghorn-chat", Map.of("base_address", places.foghorn() + "/hooks/fog-5519"));
        long folder = destination("Folder", "file-folder", Map.of("base_address", FILE_FOLDER));
        api.put("/api/destinations/" + folder + "/files", layout());
        return new Ids(
                scenario.route("Contacts", holders, purser, "contact", contacts()),
                scenario.route("List", letters, lamplight, LIST, list()),
                scenario.route("Notices", notices, foghorn, "message", messages()),
                scenario.route("File", holders, folder, layout().name(), file()),
                scenario.route("Piers", piers, purser, "company", companies()));
    }

    private static long id(JsonNode made) {
        return made.get("id").asLong();
    }

    private long destination(String name, String profile, Map<String, String> settings) {
        return id(api.post(
                "/api/destinations",
                Map.of("name", name, "profile", profile, "limitsOff", true, "settings", settings)));
    }

    private static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }

    private static RouteSpec spec(Mode mode, String key, List<FieldRule> rules) {
        return RouteSpec.of(
                        mode,
                        List.of(key),
                        rules,
                        new Basis.Stated("Made up"),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static RouteSpec contacts() {
        return spec(
                        Mode.ADD_OR_UPDATE,
                        "external_ref",
                        List.of(
                                from("external_ref", "pass_number"),
                                from("given_name", "given_name", new Trim()),
                                from("family_name", "family_name", new Trim()).ifEmpty(IfEmpty.HOLD_RECORD),
                                from("home_port", "home_port", new Trim()).ifEmpty(IfEmpty.CLEAR),
                                FieldRule.of(
                                        "pass_status",
                                        new Receives.Computed("status == \"active\" ? \"current\" : \"lapsed\""))))
                .leavers(new Leavers.Delete());
    }

    private static RouteSpec companies() {
        return spec(
                        Mode.ADD_OR_UPDATE,
                        "vat_number",
                        List.of(from("vat_number", "vat_number"), from("name", "name"), from("city", "city")))
                .leavers(new Leavers.Delete());
    }

    private static RouteSpec list() {
        return spec(
                        Mode.MEMBERSHIP,
                        "email_sha256",
                        List.of(from("email_sha256", "email", new Trim(), new LowerCase(), new Sha256())))
                .leavers(new Leavers.TakeOff());
    }

    private static RouteSpec messages() {
        return spec(Mode.APPEND, "ref", List.of(from("ref", "ref"), from("text", "words")));
    }

    private static RouteSpec file() {
        return spec(
                        Mode.KEEP_EQUAL,
                        "Pass",
                        List.of(
                                from("Pass", "pass_number"),
                                from("Name", "given_name", new Trim()),
                                from("Port", "home_port", new Trim())))
                .leavers(new Leavers.Delete());
    }

    private static FileLayout layout() {
        return new FileLayout(
                "holders",
                true,
                new FileContent.Everybody(),
                "",
                new FileName("holders-{date}-{run}"),
                "UTC",
                new FileForm.Csv(
                        ";",
                        FileForm.Quoting.WHERE_NEEDED,
                        FileForm.LineEnd.LF,
                        FileForm.Encoding.UTF_8,
                        true,
                        ", ",
                        Optional.empty()),
                false,
                "Pass",
                List.of(
                        FileColumn.of("Pass", FieldKind.TEXT),
                        FileColumn.of("Name", FieldKind.TEXT),
                        FileColumn.of("Port", FieldKind.TEXT)));
    }
}
