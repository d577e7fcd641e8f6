package remitto.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import remitto.demo.history.Api;
import remitto.demo.history.AudienceSetUp;
import remitto.demo.history.PeopleSetUp;
import remitto.demo.history.Scenario;

/** People joined, events read, measures and audiences of the demo, Lamplight connected, and a browser signed in. */
abstract class AudienceFixture extends RouteRunsFixture {
    private static final int PEOPLE = 500;
    private static final World<Known> WORLD =
            new World<>(PEOPLE, Optional.of(Instant.parse("2026-11-20T15:00:00Z")), AudienceFixture::known);

    protected Browser browser;
    protected Page page;
    protected PeopleSetUp people;
    protected AudienceSetUp audiences;
    protected Map<String, Long> audience;
    protected long lamplight;

    AudienceFixture() {
        super(PEOPLE);
    }

    private record Known(Scenario.Ids ids, Map<String, Long> audiences, long lamplight) {}

    @Override
    @BeforeEach
    void start() throws Exception {
        Known known = begin(WORLD);
        ids = known.ids();
        audience = known.audiences();
        lamplight = known.lamplight();
        people = new PeopleSetUp(editor, scenario);
        audiences = new AudienceSetUp(editor, scenario);
        browser = new Browser();
        page = browser.open(stack.server().address().resolve("/sign-in"));
        browser.signIn(page, stack.server().address(), "editor");
    }

    private static Known known(Stack stack) {
        Scenario.Ids ids = routes(stack);
        Api editor = stack.user("EDITOR");
        Scenario scenario = new Scenario(editor);
        PeopleSetUp people = new PeopleSetUp(editor, scenario);
        Map<String, Long> described = people.setUp(ids.source());
        people.join("COMPANY");
        people.join();
        Map<String, Long> audiences = new AudienceSetUp(editor, scenario)
                .setUp(ids.source(), described)
                .audiences();
        long lamplight = editor.post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                "Lamplight Ads",
                                "profile",
                                "lamplight-ads",
                                "limitsOff",
                                true,
                                "settings",
                                Map.of(
                                        "base_address",
                                        address(stack.lamplight.port()),
                                        "lamp_key",
                                        "lamp-4410-halvorn")))
                .get("id")
                .asLong();
        return new Known(ids, audiences, lamplight);
    }

    @AfterEach
    void closeBrowser() {
        browser.close();
    }

    protected Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    protected void open(String path) {
        page.navigate(stack.server().address().resolve(path).toString());
    }

    protected List<String> listed() {
        List<String> hashes = new ArrayList<>();
        new Api(URI.create(address(stack.lamplight.port())))
                .get("/control/lists/commuters")
                .forEach(hash -> hashes.add(hash.asString()));
        return hashes;
    }

    protected long bySql(String where) throws SQLException {
        return number("select count(*) from people.person where " + where);
    }

    protected long number(String sql) throws SQLException {
        return Long.parseLong(text(sql));
    }

    protected String text(String sql) throws SQLException {
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            row.next();
            return String.valueOf(row.getString(1));
        }
    }
}
