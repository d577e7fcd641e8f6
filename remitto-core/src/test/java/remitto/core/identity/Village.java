package remitto.core.identity;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;

/**
 * People for tests of who is whom, made otherwise than the demo's: families move together, share a phone and a mailbox, are written
 * down wrongly by a source that always makes the same mistake, and have names of which few are common and many rare (a harmonic
 * series, as Zipf found of words).
 */
final class Village {
    static final List<Attribute> ATTRIBUTES = List.of(
            new Attribute("given_name", Kind.GIVEN_NAME),
            new Attribute("family_name", Kind.FAMILY_NAME),
            new Attribute("email", Kind.EMAIL),
            new Attribute("phone", Kind.PHONE),
            new Attribute("birth_date", Kind.BIRTH_DATE),
            new Attribute("address", Kind.ADDRESS),
            new Attribute("postcode", Kind.POSTCODE));
    private static final List<String> SOURCES = List.of("a", "b", "c", "d");
    private static final String SYLLABLES = "bakodilemunoraseti";

    private final SplittableRandom random;
    private final boolean families;
    private final List<RecordRef> refs = new ArrayList<>();
    private final List<String[]> values = new ArrayList<>();
    private final List<Integer> truth = new ArrayList<>();

    private Village(long seed, boolean families) {
        this.random = new SplittableRandom(seed);
        this.families = families;
    }

    /** @param families false leaves everybody to live alone */
    static Village of(int records, long seed, boolean families) {
        Village village = new Village(seed, families);
        for (int house = 0; village.refs.size() < records; house++) {
            village.house(house);
        }
        return village;
    }

    RecordTable table() {
        RecordTable.Builder builder = new RecordTable.Builder(ATTRIBUTES);
        for (int i = 0; i < refs.size(); i++) {
            builder.add(refs.get(i), values.get(i).clone());
        }
        return builder.build();
    }

    /** By record of {@link #table}, who it is. */
    int[] truth(RecordTable table) {
        java.util.Map<RecordRef, Integer> persons = new java.util.HashMap<>();
        for (int i = 0; i < refs.size(); i++) {
            persons.put(refs.get(i), truth.get(i));
        }
        return java.util.stream.IntStream.range(0, table.size())
                .map(record -> persons.get(table.ref(record)))
                .toArray();
    }

    private void house(int house) {
        int size = families ? 1 + random.nextInt(4) : 1;
        String family = name(40_000, 3);
        String address = (1 + random.nextInt(90)) + " " + name(4_000, 2) + " street";
        String moved = random.nextInt(8) == 0 ? (1 + random.nextInt(90)) + " " + name(4_000, 2) + " street" : address;
        String postcode = Integer.toString(1_000 + random.nextInt(9_000));
        String elsewhere = moved.equals(address) ? postcode : Integer.toString(1_000 + random.nextInt(9_000));
        String phone = phone();
        for (int i = 0; i < size; i++) {
            int person = house * 4 + i;
            String given = name(2_000, 2) + (char) ('a' + i);
            String birth = date(i < 2 ? 1940 : 1985);
            String own = phone();
            String mail = given + person + "@sol.example";
            boolean shares = families && random.nextInt(8) == 0;
            for (String source : SOURCES) {
                if (random.nextInt(10) < 6) {
                    boolean late = random.nextBoolean();
                    refs.add(new RecordRef(source, source + person));
                    truth.add(person);
                    values.add(new String[] {
                        random.nextInt(25) == 0 ? slip(given) : random.nextInt(25) == 0 ? given.substring(0, 1) : given,
                        random.nextInt(30) == 0 ? slip(family) : family,
                        random.nextInt(6) == 0 ? "" : shares ? family + house + "@sol.example" : mail,
                        random.nextInt(5) == 0 ? "" : families && random.nextInt(4) == 0 ? phone : own,
                        source.equals("d") || random.nextInt(10) == 0 ? "" : birth,
                        late ? moved : address,
                        late ? elsewhere : postcode
                    });
                }
            }
        }
    }

    /** @param names there are, few of them common */
    private String name(int names, int syllables) {
        int rank = (int) Math.exp(random.nextDouble() * Math.log(names));
        StringBuilder name = new StringBuilder();
        for (int i = 0; i < syllables + 1; i++) {
            int at = Math.floorMod(rank * 31 + rank / (7 + i) + i * 13, SYLLABLES.length() / 2) * 2;
            name.append(SYLLABLES, at, at + 2);
        }
        for (int rest = rank; rest > 0; rest /= 26) {
            name.append((char) ('a' + rest % 26));
        }
        return name.toString();
    }

    private String phone() {
        return "+474" + (1_000_000 + random.nextInt(8_999_999));
    }

    private String date(int from) {
        return "%04d%02d%02d".formatted(from + random.nextInt(40), 1 + random.nextInt(12), 1 + random.nextInt(28));
    }

    private String slip(String name) {
        int at = 1 + random.nextInt(name.length() - 1);
        return name.substring(0, at) + (char) ('a' + random.nextInt(26)) + name.substring(at + 1);
    }
}
