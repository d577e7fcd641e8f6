package remitto.server.definition;

/**
 * Which definition is meant.
 *
 * @param slug name of its file, without folder and ending
 */
record Ref(String kind, String slug) implements Comparable<Ref> {
    @Override
    public int compareTo(Ref other) {
        int byKind = kind.compareTo(other.kind);
        return byKind == 0 ? slug.compareTo(other.slug) : byKind;
    }
}
