package remitto.core.identity.normalise;

import java.util.Set;

/** Names of companies without what says of which legal form they are; common forms of several countries, from memory. */
final class CompanyName {
    private static final Set<String> FORMS = Set.of(
            "as", "asa", "ans", "da", "enk", "ab", "hb", "aps", "oy", "oyj", "ky", "hf", "ehf", "sf", "pf", "gmbh",
            "ag", "kg", "ohg", "ug", "mbh", "ev", "ltd", "limited", "llc", "llp", "plc", "inc", "corp", "co", "company",
            "bv", "nv", "vof", "sa", "sas", "sarl", "srl", "spa", "sl", "lda", "doo", "ooo");

    private CompanyName() {}

    /** Plain words; legal forms at the end and "and" are dropped unless nothing else is left. */
    static String normalise(String spelled, PlainText plain) {
        String[] words = plain.of(spelled.replace(".", "").replace("/", "").replace("&", " "))
                .split(" ");
        int end = words.length;
        while (end > 1 && FORMS.contains(words[end - 1])) {
            end--;
        }
        StringBuilder name = new StringBuilder();
        for (int i = 0; i < end; i++) {
            boolean and = i > 0 && (words[i].equals("and") || words[i].equals("og") || words[i].equals("und"));
            if (!and) {
                name.append(name.isEmpty() ? "" : " ").append(words[i]);
            }
        }
        return name.toString();
    }
}
