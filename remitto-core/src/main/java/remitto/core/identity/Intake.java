package remitto.core.identity;

import java.util.ArrayList;
import java.util.List;
import remitto.core.identity.normalise.DateOrder;
import remitto.core.identity.normalise.Normaliser;
import remitto.core.identity.normalise.PersonName;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.Attribute.Kind;

/**
 * From what a source says of a record to what records are compared by. Full names go into given and family name where those
 * say nothing themselves; of several columns of one attribute the first that says something counts, but the parts of an address are
 * put together in the order of their columns.
 */
public final class Intake {
    private final List<Attribute> columns;
    private final List<Attribute> attributes;
    private final List<DateOrder> orders;
    private final boolean withoutTag;

    /** @param columns what each value of a record is, full names among them; dates have the day before the month */
    public Intake(List<Attribute> columns) {
        this(columns, columns.stream().map(column -> DateOrder.DAY_FIRST).toList(), true);
    }

    /**
     * @param orders by column, of day and month in its dates
     * @param withoutTag whether what follows a plus sign in an e-mail address is dropped
     */
    public Intake(List<Attribute> columns, List<DateOrder> orders, boolean withoutTag) {
        this.orders = List.copyOf(orders);
        this.withoutTag = withoutTag;
        this.columns = List.copyOf(columns);
        this.attributes = attributes(columns);
    }

    private static List<Attribute> attributes(List<Attribute> columns) {
        List<Attribute> attributes = new ArrayList<>();
        columns.stream()
                .filter(one -> one.kind() != Kind.FULL_NAME && !attributes.contains(one))
                .forEach(attributes::add);
        boolean full = columns.stream().anyMatch(one -> one.kind() == Kind.FULL_NAME);
        if (full && attributes.stream().noneMatch(one -> one.kind() == Kind.GIVEN_NAME)) {
            attributes.add(new Attribute("given_name", Kind.GIVEN_NAME));
        }
        if (full && attributes.stream().noneMatch(one -> one.kind() == Kind.FAMILY_NAME)) {
            attributes.add(new Attribute("family_name", Kind.FAMILY_NAME));
        }
        return attributes;
    }

    /** What records are compared by. */
    public List<Attribute> attributes() {
        return List.copyOf(attributes);
    }

    /** For one thread. */
    public Normalising normalising() {
        return new Normalising();
    }

    /** Tidies record after record. Used by one thread. */
    public final class Normalising {
        private final Normaliser normaliser = new Normaliser(withoutTag);

        /**
         * @param values as {@link Intake} was told the columns; blank for none
         * @param country ISO 3166-1 alpha-2 of the record
         * @return one value for each of {@link Intake#attributes()}, blank for none
         */
        public String[] normalise(String[] values, String country) {
            String[] normalised = new String[attributes.size()];
            java.util.Arrays.fill(normalised, "");
            for (int i = 0; i < values.length; i++) {
                Attribute column = columns.get(i);
                if (column.kind() == Kind.ADDRESS) {
                    append(
                            normalised,
                            attributes.indexOf(column),
                            normaliser.normalise(Kind.ADDRESS, values[i], country));
                } else if (column.kind() == Kind.BIRTH_DATE) {
                    put(normalised, attributes.indexOf(column), normaliser.birthDate(values[i], orders.get(i)));
                } else if (column.kind() != Kind.FULL_NAME) {
                    put(
                            normalised,
                            attributes.indexOf(column),
                            normaliser.normalise(column.kind(), values[i], country));
                } else if (!values[i].isBlank()) {
                    PersonName name = normaliser.name(values[i]);
                    put(normalised, place(Kind.GIVEN_NAME), name.given());
                    put(normalised, place(Kind.FAMILY_NAME), name.family());
                }
            }
            return normalised;
        }

        /** An address in several columns is one, as a house number beside a street's name. */
        private void append(String[] normalised, int at, String value) {
            if (normalised[at].isEmpty()) {
                normalised[at] = value;
            } else if (!value.isEmpty()) {
                normalised[at] = normalised[at] + " " + value;
            }
        }

        private void put(String[] normalised, int at, String value) {
            if (normalised[at].isEmpty()) {
                normalised[at] = value;
            }
        }

        private int place(Kind kind) {
            for (int i = 0; i < attributes.size(); i++) {
                if (attributes.get(i).kind() == kind) {
                    return i;
                }
            }
            throw new IllegalStateException("no attribute of kind " + kind);
        }
    }
}
