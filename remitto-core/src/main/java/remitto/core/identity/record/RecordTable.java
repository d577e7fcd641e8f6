package remitto.core.identity.record;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;

/**
 * Records of people by attribute, their values normalised. Records are numbered in the order of their references, so that
 * nothing that is computed depends on the order they came in. Safe to share between threads.
 */
public final class RecordTable {
    private final List<Attribute> attributes;
    private final List<RecordRef> refs;
    private final int[][] codes;
    private final List<Dictionary> dictionaries;

    private RecordTable(
            List<Attribute> attributes, List<RecordRef> refs, int[][] codes, List<Dictionary> dictionaries) {
        this.attributes = attributes;
        this.refs = refs;
        this.codes = codes;
        this.dictionaries = dictionaries;
    }

    public List<Attribute> attributes() {
        return attributes;
    }

    public int size() {
        return refs.size();
    }

    public RecordRef ref(int record) {
        return refs.get(record);
    }

    /** @throws IllegalArgumentException naming an attribute that there is none of */
    public int position(String attribute) {
        for (int i = 0; i < attributes.size(); i++) {
            if (attributes.get(i).name().equals(attribute)) {
                return i;
            }
        }
        throw new IllegalArgumentException("there is no attribute " + attribute);
    }

    /** The code of a record's value; 0 when it has none. */
    public int code(int attribute, int record) {
        return codes[attribute][record];
    }

    /** A record's normalised value; blank when it has none. */
    public String value(int attribute, int record) {
        return dictionaries.get(attribute).value(codes[attribute][record]);
    }

    public Dictionary dictionary(int attribute) {
        return dictionaries.get(attribute);
    }

    /** The same records without some values, as if nobody had given them. */
    public RecordTable without(CommonValues leftOut) {
        if (leftOut.list().isEmpty()) {
            return this;
        }
        Builder builder = new Builder(attributes);
        List<Set<String>> drop =
                attributes.stream().map(one -> leftOut.of(one.name())).toList();
        for (int record = 0; record < size(); record++) {
            String[] values = new String[attributes.size()];
            for (int a = 0; a < values.length; a++) {
                String value = value(a, record);
                values[a] = drop.get(a).contains(value) ? "" : value;
            }
            builder.add(ref(record), values);
        }
        return builder.build();
    }

    /** Takes records in any order. Used by one thread. */
    public static final class Builder {
        private final List<Attribute> attributes;
        private final List<Entry> entries = new ArrayList<>();

        public Builder(List<Attribute> attributes) {
            this.attributes = List.copyOf(attributes);
        }

        private record Entry(RecordRef ref, String[] values) {}

        /** @param values normalised, one for each attribute; blank for none. Kept as it is. */
        public void add(RecordRef ref, String[] values) {
            entries.add(new Entry(ref, values));
        }

        public RecordTable build() {
            entries.sort(Comparator.comparing(Entry::ref));
            int[][] codes = new int[attributes.size()][entries.size()];
            List<Dictionary> dictionaries = new ArrayList<>();
            for (int a = 0; a < attributes.size(); a++) {
                Dictionary dictionary = new Dictionary();
                for (int record = 0; record < entries.size(); record++) {
                    codes[a][record] = dictionary.add(entries.get(record).values()[a]);
                }
                dictionaries.add(dictionary);
            }
            List<RecordRef> refs = new ArrayList<>(entries.size());
            entries.forEach(entry -> refs.add(entry.ref()));
            entries.clear();
            return new RecordTable(attributes, refs, codes, dictionaries);
        }
    }
}
