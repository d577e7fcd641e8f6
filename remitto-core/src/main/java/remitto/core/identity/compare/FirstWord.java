package remitto.core.identity.compare;

/** Given names that begin with the same name, as Anna and Anna Maria do; an initial is no name. */
public record FirstWord() implements Comparison {
    @Override
    public boolean holds(String one, String other) {
        int end = end(one);
        return end > 1 && end == end(other) && one.regionMatches(0, other, 0, end);
    }

    private static int end(String given) {
        int space = given.indexOf(' ');
        return space < 0 ? given.length() : space;
    }

    @Override
    public String words() {
        return "the same in the first name";
    }
}
