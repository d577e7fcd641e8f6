package remitto.demo.history;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/** What Halvorn's freight sales write in Purser themselves: deals, leads, tasks and notes, which no route touches. */
final class DeskWork {
    private final Desk desk;

    DeskWork(Desk desk) {
        this.desk = desk;
    }

    private record Deal(String title, String stage, int amount, int closesIn) {}

    private record Task(String title, int due, boolean done) {}

    private static final List<Deal> DEALS = List.of(
            new Deal("Timber, Lysne to Tarva, spring season", "open", 184_000, 40),
            new Deal("Reefer trailers, weekly", "open", 96_500, 21),
            new Deal("Salmon, early boat, six months", "won", 312_000, -9),
            new Deal("Building stone, one sailing", "lost", 27_800, -15),
            new Deal("Mail bags, night crossing", "won", 58_200, -30),
            new Deal("Wind turbine blades, two sailings", "open", 441_000, 75),
            new Deal("Groceries for Brenn, daily", "open", 129_900, 12),
            new Deal("Hay, September only", "lost", 8_400, -62));

    private static final List<Map<String, String>> LEADS = List.of(
            Map.of("name", "Sunniva Aasgard", "email", "sunniva@brygge.example", "origin", "Harbour fair"),
            Map.of("name", "Pekka Lehto", "email", "pekka.lehto@nordvind.example", "origin", "Web form"),
            Map.of("name", "Anneke de Graaf", "email", "anneke@sol.example", "origin", "Web form"),
            Map.of("name", "Bertil Ohlin", "email", "bertil@kai.example", "origin", "Recommended by a customer"),
            Map.of("name", "Maret Tamm", "email", "maret.tamm@nordvind.example", "origin", "Harbour fair"));

    private static final List<Task> TASKS = List.of(
            new Task("Call about the spring timetable", 2, false),
            new Task("Send tonnage figures for last year", -3, true),
            new Task("Ask for the new VAT certificate", 5, false),
            new Task("Agree on the loading slot for Thursday", -1, true),
            new Task("Offer the reefer plugs on the night boat", 9, false));

    private static final List<String> NOTES = List.of(
            "Wants invoices by the tenth, no later.",
            "Ask for Ragnhild at the gate; the office opens at nine.",
            "Trailers over 17 metres only on the Sunday sailing.",
            "Prefers to be called, reads no mail at sea.");

    void write(LocalDate today) {
        for (int at = 0; at < DEALS.size(); at++) {
            Deal deal = DEALS.get(at);
            desk.add(
                    "deal",
                    Map.of(
                            "deal_ref", "D-%03d".formatted(at + 1),
                            "title", deal.title(),
                            "stage", deal.stage(),
                            "amount", Integer.toString(deal.amount()),
                            "closes_on", today.plusDays(deal.closesIn()).toString()));
        }
        LEADS.forEach(lead -> desk.add("lead", lead));
        for (int at = 0; at < TASKS.size(); at++) {
            Task task = TASKS.get(at);
            desk.add(
                    "task",
                    Map.of(
                            "task_ref", "T-%03d".formatted(at + 1),
                            "title", task.title(),
                            "due", today.plusDays(task.due()).toString(),
                            "done", Boolean.toString(task.done())));
        }
        for (int at = 0; at < NOTES.size(); at++) {
            desk.add("note", Map.of("note_ref", "N-%03d".formatted(at + 1), "text", NOTES.get(at)));
        }
    }
}
