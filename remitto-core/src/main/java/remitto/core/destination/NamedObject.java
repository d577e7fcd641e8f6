package remitto.core.destination;

import com.ibm.icu.lang.UCharacter;
import com.ibm.icu.text.Normalizer2;
import java.util.List;
import java.util.Optional;

/**
 * An object that somebody named: one that is called exactly so, or those that are nearly called so. A name matches in case and
 * spacing or not at all; what differs only there, or in hyphens and underscores, is never taken for it, and is told.
 *
 * @param exact name of the object that is called so
 * @param near titles that differ in case, spacing or Unicode form only
 */
public record NamedObject(Optional<String> exact, List<String> near) {
    /** @param title what a person calls it */
    public record Titled(String name, String title) {}

    public static NamedObject find(List<Titled> objects, String wanted) {
        Optional<String> exact = objects.stream()
                .filter(one -> one.title().equals(wanted))
                .map(Titled::name)
                .findFirst();
        List<String> near = exact.isPresent()
                ? List.of()
                : objects.stream()
                        .map(Titled::title)
                        .filter(title -> key(title).equals(key(wanted)))
                        .toList();
        return new NamedObject(exact, near);
    }

    /** NFKC and full case folding (Unicode Standard, 3.13), without spaces, hyphens and underscores. */
    private static String key(String title) {
        String folded = UCharacter.foldCase(Normalizer2.getNFKCInstance().normalize(title), true);
        return folded.replaceAll("[\\p{Z}\\s_\\p{Pd}]+", "");
    }
}
