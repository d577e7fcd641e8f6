package remitto.standins.page;

/** What stands around the pages of one stand-in: its looks and where else to go. */
public interface Frame {
    /** @param body HTML, with what came from outside escaped already */
    String page(String title, String body);
}
