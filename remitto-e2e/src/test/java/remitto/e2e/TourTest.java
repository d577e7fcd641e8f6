package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import remitto.demo.history.Desk;

/** The tour of the documentation, step by step, on the demo as it is loaded: each section of it in its order. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class TourTest {
    private static final double PAUSE = 90_000;

    private static final List<String> PAGES = List.of(
            "/",
            "/routes",
            "/routes/1",
            "/routes/new",
            "/datasets",
            "/datasets/1",
            "/crosswalks/1",
            "/sources",
            "/sources/1",
            "/destinations",
            "/destinations/1",
            "/destinations/1/contact",
            "/profiles/purser-crm",
            "/people",
            "/people/1",
            "/people/rules",
            "/people/review",
            "/people/erasures",
            "/audiences",
            "/audiences/1",
            "/audiences/1/members",
            "/audiences/1/send",
            "/audiences/events",
            "/audiences/measures",
            "/audiences/measures/1",
            "/audiences/consent",
            "/held",
            "/manifests/1",
            "/stocktakes/1",
            "/journal",
            "/account");

    private Stack stack;
    private Browser browser;
    private Page page;

    @BeforeAll
    void start() throws Exception {
        stack = Stack.withHistory(300);
    }

    @AfterAll
    void stop() throws Exception {
        stack.close();
    }

    @BeforeEach
    void open() {
        browser = new Browser();
        page = browser.open(stack.server().address());
        signIn("edda");
    }

    @AfterEach
    void close() {
        assertThat(browser.errors()).isEmpty();
        browser.close();
    }

    private void signIn(String name) {
        page.context().clearCookies();
        page.navigate(stack.server().address().resolve("/sign-in").toString());
        page.getByLabel("E-mail").fill(name + "@halvorn.example");
        page.getByLabel("Password").fill(Stack.DEMO_PASSWORD);
        button("Sign in").click();
        assertThat(heading("Departures")).isVisible();
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private Locator buttons(String begin) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("^" + begin)));
    }

    private Locator link(String name) {
        return page.getByRole(
                        AriaRole.LINK, new Page.GetByRoleOptions().setName(name).setExact(true))
                .first();
    }

    private Locator link(Pattern name) {
        return page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name))
                .first();
    }

    /** Opens something by its name in a list. */
    private void open(String name) {
        link(name).click();
        assertThat(heading(name)).isVisible();
    }

    private Locator heading(String name) {
        return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(Pattern.compile("^" + name)))
                .first();
    }

    private Locator label(String name) {
        return page.getByLabel(name, new Page.GetByLabelOptions().setExact(true));
    }

    private Locator text(String begin) {
        return page.getByText(Pattern.compile(begin)).first();
    }

    /** A stop of the main navigation. */
    private void stop(String name) {
        page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Main navigation"))
                .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(Pattern.compile("^" + name)))
                .first()
                .click();
        assertThat(heading(name)).isVisible();
    }

    private void find(String typed, Pattern wanted) {
        page.keyboard().press("Control+k");
        page.getByPlaceholder("Find a person, a record, a page, or something to do")
                .fill(typed);
        Locator option = page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName(wanted))
                .first();
        assertThat(option).isVisible();
        option.click();
    }

    @Test
    @Order(0)
    void fromAnAddressToTheReasonForAValueInFourClicks() {
        String email = stack.text("select h.email from ferry.pass_holders h where h.status = 'active' and exists ("
                + "select 1 from ferry.newsletter_signups n where n.email = h.email) and h.email <> '' limit 1");
        email = email.isEmpty()
                ? stack.text("select email from ferry.pass_holders where status = 'active' and email <> '' limit 1")
                : email;
        find(email, Pattern.compile("person"));
        assertThat(heading("Records in destinations")).isVisible();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^Purser CRM, contact")))
                .first()
                .click();
        assertThat(heading("Why ")).isVisible();
        buttons("email").first().click();
        assertThat(heading("Why email of record")).isVisible();
        assertThat(text("^From the source row")).isVisible();
    }

    @Test
    @Order(1)
    void departuresShowWhatIsDueAndWhatNeedsAttention() {
        assertThat(link("Commuter passes")).isVisible();
        assertThat(text("Freight accounts: awaiting approval")).isVisible();
        assertThat(text("A field changed in Purser CRM")).isVisible();
        assertThat(page.getByText(Pattern.compile("asks for approval"))).hasCount(0);
    }

    @Test
    @Order(2)
    void aSourceTellsWhatItsLoginCanRead() {
        stop("Sources");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("warehouse")))
                .first()
                .click();
        assertThat(text("What it can reach")).isVisible();
        assertThat(label("Grant statements")).containsText("grant select");
    }

    @Test
    @Order(3)
    void aDatasetIsPreviewedAndItsKeyChecked() {
        stop("Datasets");
        open("Pass holders");
        Locator query = page.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Query"));
        query.click();
        page.keyboard().press("Control+Enter");
        assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName(Pattern.compile("^P-2")))
                        .first())
                .isVisible();
        button("Check key").click();
        assertThat(text("every row has a unique key")).isVisible();
        stop("Datasets");
        assertThat(heading("Crosswalks")).isVisible();
    }

    @Test
    @Order(4)
    void peopleAreFoundAndTheirEvidenceIsTold() {
        stop("People");
        assertThat(text("became [\\d,]+ people")).isVisible();
        label("Find a person").fill("solvang");
        page.getByLabel("People found").locator("tbody tr a").first().click();
        assertThat(heading("What links these records")).isVisible();
        stop("People");
        link(Pattern.compile("^Review")).click();
        assertThat(heading("Pairs to review")).isVisible();
        stop("People");
        link("Rules").click();
        assertThat(heading("Rules")).isVisible();
        assertThat(text("^They give the same [\\d,]+ people")).isVisible();
    }

    @Test
    @Order(5)
    void anAudienceReadsAsSentencesAndTellsWhySomebodyIsInIt() {
        stop("Audiences");
        open("Lapsed islanders");
        assertThat(label("line 2")).containsText(Pattern.compile("made.*at least 3.*crossings"));
        assertThat(text("people match")).isVisible();
        Locator member = page.locator("section", new Page.LocatorOptions().setHasText("Sample members"))
                .getByRole(AriaRole.LINK)
                .first();
        String name = member.textContent();
        page.getByLabel("A person, by name, address or id").fill(name);
        page.getByLabel("Found").getByRole(AriaRole.BUTTON).first().click();
        assertThat(text("is (not )?a member")).isVisible();
        stop("Audiences");
        open("Frequent crossers");
        assertThat(text("Accepted by the destination")).isVisible();
        stop("Audiences");
        for (String beside : new String[] {"Events", "Measures", "Consent"}) {
            open(beside);
            stop("Audiences");
        }
    }

    @Test
    @Order(6)
    void aProfileIsTriedOutAndStockIsTaken() {
        page.navigate(stack.server().address().resolve("/profiles/purser-crm").toString());
        assertThat(heading("Test calls")).isVisible();
        button("Send call").click();
        assertThat(text("Purser CRM answers")).isVisible();
        stop("Destinations");
        open("Purser CRM");
        buttons("Contact").first().click();
        button("Run stocktake").click();
        assertThat(heading("Stocktake")).isVisible();
        assertThat(text("known to routes")).isVisible();
        assertThat(button("Check changes")).isVisible();
        button("Check changes").click();
        assertThat(text("Compares what changed in the destination since")).isVisible();
    }

    @Test
    @Order(7)
    void aRuleIsEditedAndTheRecordBesideItFollows() {
        stop("Routes");
        open("Ticket customers");
        button("loyalty_key").click();
        assertThat(page.getByLabel("One record, followed")).isVisible();
        assertThat(text("loyalty_key receives")).isVisible();
    }

    @Test
    @Order(8)
    void oneChangedRowIsSentAndExplained() {
        stop("Routes");
        open("Commuter passes");
        button("Prepare manifest").click();
        assertThat(text("Nothing has been sent|Nothing to send")).isVisible();
        assertThat(buttons("(Send \\d|Prepare manifest$)").first()).isVisible();
        if (buttons("Send \\d").count() > 0) {
            buttons("Send \\d").first().click();
            assertThat(button("Prepare manifest")).isVisible();
        }
        String pass = stack.text("select pass_number from ferry.pass_holders where status = 'active' and pass_number in"
                + " (select pass_number from ferry.pass_trips) order by pass_number limit 1");
        stack.change("update ferry.pass_holders set given_name = 'Runa' where pass_number = '" + pass + "'");
        page.reload();
        button("Prepare manifest").click();
        button("Send 1").click();
        assertThat(page.getByText("acknowledged", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        button(pass).click();
        assertThat(page.getByLabel("Record " + pass)).containsText("Runa");
        assertThat(page.getByLabel("Record " + pass)).containsText("Open in destination");
        page.getByLabel("Record " + pass)
                .getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("given_name"))
                .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("explain"))
                .click();
        assertThat(heading("Why given_name of record")).isVisible();
        assertThat(text("Runa")).isVisible();
        page.navigate(
                stack.server().address().resolve("/destinations/1/contact").toString());
        assertThat(text("given_name")).isVisible();
    }

    @Test
    @Order(9)
    void whatIsInTheWayIsSettledAndTakenBack() {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^Held")))
                .first()
                .click();
        assertThat(heading("Held")).isVisible();
        assertThat(text("By reason")).isVisible();
        page.navigate(stack.server().address().resolve("/").toString());
        link(Pattern.compile("^Open manifest")).click();
        assertThat(text("A guard stopped this. An approver decides about it.")).isVisible();
        button("Ask an approver").click();
        page.getByLabel("What should they know? (optional)").fill("The load lost VAT numbers");
        page.getByLabel("Ask an approver", new Page.GetByLabelOptions().setExact(true))
                .getByRole(AriaRole.BUTTON)
                .click();
        assertThat(text("asked for approval")).isVisible();
        signIn("oskar");
        assertThat(text("Edda Lysne asks for approval")).isVisible();
        link(Pattern.compile("^Open manifest")).click();
        assertThat(buttons("Approve and send [1-9]")).isVisible();
        button("Discard").click();
        assertThat(text("Discarded")).isVisible();
        page.navigate(stack.server().address().toString());
        assertThat(page.getByText("Edda Lysne asks for approval")).hasCount(0);
    }

    @Test
    @Order(10)
    void aDestinationThatFailsIsGivenAPauseAndSendingResumes() {
        stack.change("update ferry.pass_holders set given_name = 'Tone' where pass_number in (select pass_number from"
                + " ferry.pass_holders where status = 'active' order by pass_number limit 3)");
        Desk purser = stack.desk;
        stop("Routes");
        open("Commuter passes");
        button("Prepare manifest").click();
        assertThat(buttons("Send \\d").first()).isVisible();
        purser.faults("[{\"fault\":\"server-error\",\"on\":\"\",\"share\":1}]");
        buttons("Send \\d").first().click();
        page.navigate(stack.server().address().toString());
        // Calls are tried again for a while before the destination is given a pause.
        assertThat(text("Purser CRM does not answer"))
                .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(PAUSE));
        purser.faults("[]");
        assertThat(page.getByText("Purser CRM does not answer"))
                .hasCount(0, new LocatorAssertions.HasCountOptions().setTimeout(PAUSE));
    }

    @Test
    @Order(11)
    void theJournalTellsWhoDidWhatAndAViewerSeesNoNames() {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Journal"))
                .first()
                .click();
        assertThat(text("asked for approval")).isVisible();
        signIn("vera");
        page.navigate(stack.server().address().resolve("/people").toString());
        assertThat(page.getByLabel("People found").locator("tbody tr").first()).containsText("#");
        page.getByLabel("People found").locator("tbody tr a").first().click();
        assertThat(heading("What links these records")).isVisible();
        assertThat(page.getByText("Erase")).hasCount(0);
        assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("File")))
                .hasCount(0);
        signIn("admin");
        page.navigate(stack.server().address().resolve("/users").toString());
        assertThat(text("vera@halvorn.example")).isVisible();
    }

    /** Reflow (WCAG 2.2, 1.4.10): nothing but the tables themselves is scrolled sideways, at 400 pixels or at 200 % zoom. */
    @Test
    @Order(12)
    void everyPageFitsANarrowWindow() {
        for (String path : PAGES) {
            page.setViewportSize(640, 400);
            page.navigate(stack.server().address().resolve(path).toString());
            assertThat(heading("")).isVisible();
            assertThat(page.locator("[aria-busy=true]")).hasCount(0);
            assertThat(tooWide())
                    .as("pixels that " + path + " is too wide at 640")
                    .isZero();
            page.setViewportSize(400, 800);
            assertThat(tooWide())
                    .as("pixels that " + path + " is too wide at 400")
                    .isZero();
        }
    }

    private int tooWide() {
        return (Integer) page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth");
    }
}
