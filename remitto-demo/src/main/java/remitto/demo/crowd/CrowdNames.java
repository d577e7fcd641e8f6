package remitto.demo.crowd;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;

/** Made-up names, some far more common than others, as names are. */
final class CrowdNames {
    private static final List<String> FRONT = List.of(
            "Sol", "Nord", "Hav", "Berg", "Lind", "Ask", "Hauge", "Sand", "Bjørn", "Eik", "Furu", "Gran", "Holt",
            "Kvern", "Lyng", "Myr", "Nes", "Ott", "Rød", "Skog", "Stein", "Tang", "Ulv", "Vest", "Øst", "Ør", "Fjell",
            "Dal");
    private static final List<String> BACK = List.of(
            "vang", "heim", "stad", "berg", "lund", "vik", "land", "ås", "rud", "mo", "set", "mark", "haug", "nes",
            "eng", "bakk", "gård", "strøm", "holm", "dal", "li", "tveit");
    private static final List<String> GIVEN = List.of(
            "Ingrid",
            "Lars",
            "Kari",
            "Ole",
            "Anne",
            "Per",
            "Marit",
            "Jan",
            "Berit",
            "Nils",
            "Solveig",
            "Erik",
            "Astrid",
            "Knut",
            "Sigrid",
            "Arne",
            "Liv",
            "Svein",
            "Turid",
            "Odd",
            "Gerd",
            "Leif",
            "Randi",
            "Tor",
            "Hanne",
            "Magnus",
            "Silje",
            "Henrik",
            "Nora",
            "Jakob",
            "Emma",
            "Oskar",
            "Thea",
            "Filip",
            "Ida",
            "Emil",
            "Frida",
            "Aksel",
            "Vilde",
            "Sander",
            "Katarzyna",
            "Aleksander",
            "Elisabeth",
            "Margrethe",
            "Fredrik",
            "Johannes",
            "Kristoffer",
            "Benedikte",
            "Rúna",
            "Zoë",
            "Håkon",
            "Åse",
            "Øyvind",
            "Jürgen",
            "Renée",
            "Søren",
            "Bjørg",
            "Gisle",
            "Yngve",
            "Torunn");
    private static final Map<String, String> NICKNAMES = Map.of(
            "Elisabeth", "Lisa",
            "Margrethe", "Grete",
            "Fredrik", "Fred",
            "Johannes", "Hans",
            "Kristoffer", "Kris",
            "Aleksander", "Alex",
            "Katarzyna", "Kasia",
            "Benedikte", "Bente",
            "Magnus", "Mange",
            "Henrik", "Rik");
    private static final List<String> STREETS =
            List.of("Kaigata", "Havneveien", "Fyrveien", "Strandgata", "Bakken", "Skolegata", "Åsveien");

    private final SplittableRandom random;
    private final List<String> families = new ArrayList<>();
    private final List<String> givens = new ArrayList<>();

    CrowdNames(SplittableRandom random) {
        this.random = random;
        for (String front : FRONT) {
            for (String back : BACK) {
                families.add(front + back);
                families.add(front + "e" + back + "en");
                families.add(front + back + "sen");
            }
        }
        for (String given : GIVEN) {
            givens.add(given);
        }
        for (String given : GIVEN) {
            givens.add(given + " " + GIVEN.get((given.length() * 7) % GIVEN.size()));
        }
    }

    /** Common ones first in the lists: the square of a random share falls there more often. */
    private String common(List<String> list) {
        double share = random.nextDouble();
        return list.get((int) (share * share * list.size()));
    }

    String given() {
        return common(givens);
    }

    String family() {
        return common(families);
    }

    String nickname(String given) {
        return NICKNAMES.getOrDefault(given, given);
    }

    String street() {
        return STREETS.get(random.nextInt(STREETS.size()));
    }

    String town(int place) {
        return families.get(place % families.size());
    }

    static String plain(String name) {
        return Normalizer.normalize(
                        name.toLowerCase(Locale.ROOT)
                                .replace("ø", "o")
                                .replace("å", "a")
                                .replace("æ", "ae")
                                .replace(" ", ""),
                        Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "");
    }
}
