package remitto.demo.history;

import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.guard.Limit;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun.AlreadyThere;
import remitto.core.route.FirstRun.OlderRows;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;

/** The demo's routes beyond the first three: contacts of companies, a match list, and notices to a chat room. */
public final class MoreRoutes {
    private static final String CONTACTS_SQL = """
            select contact_no, vat_number, full_name, email, phone from ferry.freight_contacts
            """;
    private static final String LAPSED_SQL = """
            select pass_number, email, home_port from ferry.pass_holders
            where status = 'expired' and mail_consent = 'yes' and email like '%@%'
            """;
    private static final String LARGE_SQL = """
            select 'invoice-' || i.invoice_no as ref,
                   'Large invoice ' || i.invoice_no || ' for ' || c.name || ': ' || i.amount || ' ' || i.currency as text
            from ferry.invoices i join ferry.freight_companies c on c.vat_number = i.vat_number
            where i.amount > 15000
            """;

    private final Api api;
    private final Scenario scenario;

    public MoreRoutes(Api api, Scenario scenario) {
        this.api = api;
        this.scenario = scenario;
    }

    /** Addresses of the stand-ins beyond the CRM. */
    public record Outlets(String lamplight, String foghorn) {}

    /** What was set up. */
    public record Ids(long lamplight, long contacts, long lapsed, long notices) {}

    public Ids setUp(Scenario.Ids first, Outlets outlets) {
        long lamplight = destination(
                "Lamplight Ads",
                "lamplight-ads",
                Map.of("base_address", outlets.lamplight(), "lamp_key", "lamp-4410-halvorn"));
        long foghorn = destination(
                "Foghorn Chat", "foghorn-chat", Map.of("base_address", outlets.foghorn() + "/hooks/fog-5519"));
        long contacts = scenario.dataset(
                first.source(),
                "Freight contacts",
                "People at companies with a freight account",
                CONTACTS_SQL,
                Map.of("contact_no", "KEY", "email", "IDENTIFIER", "phone", "IDENTIFIER"));
        long lapsed = scenario.dataset(
                first.source(),
                "Lapsed passes",
                "Holders of an expired pass who agreed to mail",
                LAPSED_SQL,
                Map.of("pass_number", "KEY", "email", "IDENTIFIER"));
        long large = scenario.dataset(
                first.source(), "Large invoices", "Invoices above 15,000", LARGE_SQL, Map.of("ref", "KEY"));
        return new Ids(
                lamplight,
                scenario.route("Freight contacts", contacts, first.purser(), "contact", contacts(first.freight())),
                scenario.route("Lapsed pass holders", lapsed, lamplight, "lapsed-islanders", lapsed()),
                scenario.route("Harbour office notices", large, foghorn, "message", notices()));
    }

    private long destination(String name, String profile, Map<String, String> settings) {
        return Scenario.id(api.post(
                "/api/destinations",
                Map.of("name", name, "profile", profile, "limitsOff", false, "settings", settings)));
    }

    private static RouteSpec contacts(long freight) {
        Shaper trim = new Trim();
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("external_ref", "email"),
                        List.of(
                                Scenario.from("external_ref", "contact_no", trim)
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("email", "email", trim, new LowerCase()),
                                Scenario.from("family_name", "full_name", trim).ifEmpty(IfEmpty.HOLD_RECORD),
                                Scenario.from("mobile", "phone", new E164("NO", ""))
                                        .ifUnusable(IfUnusable.LEAVE),
                                FieldRule.of("company", new Receives.RecordOf(freight, "vat_number"))
                                        .ifUnusable(IfUnusable.HOLD_RECORD)),
                        new Basis.Stated("Our freight contract with their company"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(7, 0), "Europe/Oslo"))
                .leavers(new Leavers.ClearFields(List.of("company")))
                .firstRun(AlreadyThere.ADOPT, OlderRows.SEND);
    }

    private static RouteSpec lapsed() {
        return RouteSpec.of(
                        Mode.MEMBERSHIP,
                        List.of("email_sha256"),
                        List.of(Scenario.from("email_sha256", "email", new Trim(), new LowerCase(), new Sha256())),
                        new Basis.Stated("Consent to mail, checked in the dataset"),
                        Guards.defaults(),
                        new Schedule.Daily(LocalTime.of(8, 30), "Europe/Oslo"))
                .leavers(new Leavers.TakeOff())
                .firstRun(AlreadyThere.ADOPT, OlderRows.SEND);
    }

    private static RouteSpec notices() {
        return RouteSpec.of(
                        Mode.APPEND,
                        List.of("ref"),
                        List.of(Scenario.from("ref", "ref"), Scenario.from("text", "text")),
                        new Basis.NotStated(),
                        Guards.none().held(Limit.percent(10)),
                        new Schedule.Daily(LocalTime.of(8, 30), "Europe/Oslo"))
                .firstRun(AlreadyThere.ADOPT, OlderRows.WAIT_FOR_CHANGE);
    }
}
