package remitto.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.Charset;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** A file that somebody has on their machine, from the upload to the record in a tool. */
class UploadedFilesTest extends RouteRunsFixture {
    UploadedFilesTest() {
        super(200);
    }

    private static FilePayload file(String name, String text) {
        return new FilePayload(name, "text/csv", text.getBytes(Charset.forName("windows-1252")));
    }

    private static void upload(Page page, FilePayload file) {
        page.getByLabel("Files to upload").setInputFiles(file);
        assertThat(page.getByText(Pattern.compile("uploaded, [\\d.]+ bytes"))).isVisible();
    }

    private static void press(Page page, String button) {
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName(button).setExact(true))
                .click();
    }

    @Test
    void aFileIsUploadedLookedAtReadAndSent() {
        try (Browser browser = new Browser()) {
            Page page = browser.open(stack.server().address());
            browser.signIn(page, stack.server().address(), "editor");
            page.navigate(stack.server().address().resolve("/sources/new").toString());
            page.getByLabel("Kind of source").selectOption("upload");
            page.getByLabel("Name").fill("Uploads of the office");
            press(page, "Save and test");
            upload(
                    page,
                    file(
                            "offices_1.csv",
                            "Nr;Navn;Kreditt\nH-1;Bjørnøy Frakt;1.250,50\nH-2;\"Ålesund Last;300,00\nH-3;Vik Sjø;75,00\n"));
            assertThat(page.getByText("offices_1.csv").first()).isVisible();

            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("New file set"))
                    .click();
            page.getByLabel("Pattern of the names").fill("offices_*.csv");
            press(page, "Look at the file");
            assertThat(page.getByText("A semicolon gives 3 columns")).isVisible();
            assertThat(page.getByText("numbers with a decimal comma")).isVisible();
            assertThat(page.getByText("1 of 3 would be held")).isVisible();
            page.getByLabel("Encoding").selectOption("windows-1252");
            assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("Bjørnøy Frakt")))
                    .isVisible();
            page.getByLabel("File set", new Page.GetByLabelOptions().setExact(true))
                    .fill("Freight offices");
            press(page, "Save file set");
            press(page, "Read files");
            assertThat(page.getByText("1 file read, 0 unchanged.")).isVisible();
            page.getByLabel("1 held row of offices_1.csv").click();
            assertThat(page.getByText("H-2;\"Ålesund Last;300,00")).isVisible();

            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("New dataset"))
                    .click();
            press(page, "Run preview");
            assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("1250.5")))
                    .isVisible();
            assertThat(browser.errors()).isEmpty();

            long source = editor.get("/api/sources")
                    .valueStream()
                    .filter(one -> one.get("name").asString().equals("Uploads of the office"))
                    .findFirst()
                    .orElseThrow()
                    .get("id")
                    .asLong();
            long dataset = scenario.dataset(
                    source,
                    "Freight offices",
                    "",
                    "select nr, navn, kreditt from landed.freight_offices",
                    Map.of("nr", "KEY"));
            long route = scenario.route("Offices to Purser", dataset, ids.purser(), "company", spec());
            JsonNode sent = run(route);
            assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(2);
            assertThat(there("company", "vat_number", "name"))
                    .containsEntry("H-1", "Bjørnøy Frakt")
                    .containsEntry("H-3", "Vik Sjø")
                    .doesNotContainKey("H-2");

            page.navigate(stack.server().address().resolve("/sources/" + source).toString());
            upload(
                    page,
                    file(
                            "offices_1.csv",
                            "Nr;Navn;Kreditt\nH-1;Bjørnøy Frakt AS;1.250,50\nH-2;Ålesund Last;300,00\nH-3;Vik Sjø;75,00\n"));
            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Freight offices"))
                    .click();
            press(page, "Read files");
            assertThat(page.getByText("1 file read, 0 unchanged.")).isVisible();
            JsonNode again = run(route);
            assertThat(sum(again, "added")).isEqualTo(1);
            assertThat(sum(again, "changed")).isEqualTo(1);
            assertThat(there("company", "vat_number", "name"))
                    .containsEntry("H-1", "Bjørnøy Frakt AS")
                    .containsEntry("H-2", "Ålesund Last");
        }
    }

    private static RouteSpec spec() {
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("vat_number"),
                        List.of(
                                FieldRule.of("vat_number", new Receives.FromColumn("nr"))
                                        .ifEmpty(IfEmpty.HOLD_RECORD),
                                FieldRule.of("name", new Receives.FromColumn("navn"))
                                        .ifEmpty(IfEmpty.HOLD_RECORD)),
                        new Basis.NotStated(),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }
}
