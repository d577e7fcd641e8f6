package remitto.server.retention;

/** A kind of data that grows with time and may be removed after a while. */
public enum RetentionKind {
    MANIFEST_LINES(
            "Lines of manifests",
            "What was decided for each record, with its values, and what the destination answered. A manifest keeps its counts and"
                    + " outcomes, but can no longer be explained or undone."),
    STOCKTAKE_FINDINGS("Findings of stocktakes", "What a stocktake found to be other than what is known."),
    JOURNAL_WORDS(
            "Words of the journal",
            "What an entry names and tells in words. The entry stays in the chain: who did what, when.");

    private final String title;
    private final String words;

    RetentionKind(String title, String words) {
        this.title = title;
        this.words = words;
    }

    public String title() {
        return title;
    }

    /** What it is, and what is no longer possible without it. */
    public String words() {
        return words;
    }
}
