package remitto.server.people.source;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.identity.record.Attribute;
import remitto.server.dataset.Datasets;
import remitto.server.people.EntityType;

/** Guesses what columns say of a person or a company. */
public final class SuggestedColumns {
    /** Parts of names of columns, a word each. */
    private static final Pattern HOUSE = words("house|building");

    private static final Pattern POSTCODE = words("postcode|postal|zip|zipcode");
    private static final Pattern TOWN = Pattern.compile("town|city|suburb|locality|municipality|village");
    private static final Pattern NUMBER_OF_A_PERSON = words("ssn|soc_sec|social_security|national_id|passport|tax_id");

    private SuggestedColumns() {}

    private static Pattern words(String any) {
        return Pattern.compile("(^|_)(" + any + ")($|_)");
    }

    /** What the columns of a dataset probably are, by their names and roles; to be looked over by a person. */
    public static PeopleSources.PeopleSource of(EntityType entityType, Datasets.Dataset dataset) {
        List<PeopleSources.TiedColumn> tied = new ArrayList<>();
        String country = "";
        for (Column column : dataset.definition().columns()) {
            if (column.name().equals("country")) {
                country = column.name();
            }
            (entityType == EntityType.PERSON ? kind(column) : companyKind(column))
                    .ifPresent(kind -> tied.add(new PeopleSources.TiedColumn(
                            column.name(),
                            attribute(kind, column.name()),
                            kind,
                            beside(column, dataset),
                            Optional.empty())));
        }
        return new PeopleSources.PeopleSource(
                entityType, dataset.id(), dataset.name(), tied, "", country, Optional.empty());
    }

    private static Map<PeopleSources.Beside, String> beside(Column column, Datasets.Dataset dataset) {
        Map<PeopleSources.Beside, String> beside = new EnumMap<>(PeopleSources.Beside.class);
        for (Column other : dataset.definition().columns()) {
            String rest = other.name().startsWith(column.name() + "_")
                    ? other.name().substring(column.name().length() + 1)
                    : "";
            switch (rest) {
                case "verified", "verified_at", "checked" -> beside.put(PeopleSources.Beside.VERIFIED, other.name());
                case "at", "said_at", "time" -> beside.put(PeopleSources.Beside.SAID_AT, other.name());
                case "evidence", "proof", "form" -> beside.put(PeopleSources.Beside.EVIDENCE, other.name());
                case "expires", "expires_at", "until" -> beside.put(PeopleSources.Beside.EXPIRES, other.name());
                default -> {}
            }
        }
        return beside;
    }

    private static Optional<Attribute.Kind> companyKind(Column column) {
        if (column.role() == ColumnRole.KEY) {
            return Optional.empty();
        }
        String name = column.name().toLowerCase(Locale.ROOT);
        if (name.equals("name") || name.contains("company") || name.contains("legal_name")) {
            return Optional.of(Attribute.Kind.COMPANY);
        }
        if (name.contains("domain") || name.contains("web") || name.equals("site") || name.contains("mail")) {
            return Optional.of(Attribute.Kind.DOMAIN);
        }
        if (name.contains("registration") || name.contains("org_no") || name.contains("vat")) {
            return Optional.of(Attribute.Kind.IDENTIFIER);
        }
        return place(name, column);
    }

    private static Optional<Attribute.Kind> place(String name, Column column) {
        if (name.contains("phone") || name.contains("mobile")) {
            return Optional.of(Attribute.Kind.PHONE);
        }
        if (name.contains("street")
                || name.contains("address")
                || HOUSE.matcher(name).find()) {
            return Optional.of(Attribute.Kind.ADDRESS);
        }
        if (POSTCODE.matcher(name).find() || name.contains("post") && column.type() == ColumnType.TEXT) {
            return Optional.of(Attribute.Kind.POSTCODE);
        }
        if (TOWN.matcher(name).find()) {
            return Optional.of(Attribute.Kind.TOWN);
        }
        return column.role() == ColumnRole.IDENTIFIER ? Optional.of(Attribute.Kind.IDENTIFIER) : Optional.empty();
    }

    private static Optional<Attribute.Kind> kind(Column column) {
        if (column.role() == ColumnRole.KEY) {
            return Optional.empty();
        }
        String name = column.name().toLowerCase(Locale.ROOT);
        if (name.endsWith("_at") || name.endsWith("_verified") || name.endsWith("_evidence")) {
            return Optional.empty();
        }
        if (column.role() == ColumnRole.CONSENT) {
            return Optional.of(Attribute.Kind.CONSENT);
        }
        if (name.contains("given") || name.contains("first_name")) {
            return Optional.of(Attribute.Kind.GIVEN_NAME);
        }
        if (name.contains("family") || name.contains("last_name") || name.contains("surname")) {
            return Optional.of(Attribute.Kind.FAMILY_NAME);
        }
        if (name.equals("name") || name.contains("full_name")) {
            return Optional.of(Attribute.Kind.FULL_NAME);
        }
        if (name.contains("mail")) {
            return Optional.of(Attribute.Kind.EMAIL);
        }
        if (name.contains("birth") || name.equals("born") || name.equals("dob")) {
            return Optional.of(Attribute.Kind.BIRTH_DATE);
        }
        if (NUMBER_OF_A_PERSON.matcher(name).find()) {
            return Optional.of(Attribute.Kind.IDENTIFIER);
        }
        return place(name, column);
    }

    private static String attribute(Attribute.Kind kind, String column) {
        return switch (kind) {
            case IDENTIFIER, CONSENT, TEXT, VERBATIM, LIST, NUMBER -> column;
            default -> kind.name().toLowerCase(Locale.ROOT);
        };
    }
}
