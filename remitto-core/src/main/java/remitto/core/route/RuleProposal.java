package remitto.core.route;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.shaper.E164;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.Sha256;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.ToDate;
import remitto.core.shaper.Trim;

/** Proposes rules by comparing names of columns and fields, and says what is left over on both sides. */
public final class RuleProposal {
    private static final Map<String, String> SAME_MEANING = Map.ofEntries(
            Map.entry("firstname", "givenname"),
            Map.entry("forename", "givenname"),
            Map.entry("lastname", "familyname"),
            Map.entry("surname", "familyname"),
            Map.entry("mail", "email"),
            Map.entry("emailaddress", "email"),
            Map.entry("phone", "mobile"),
            Map.entry("phonenumber", "mobile"),
            Map.entry("cellphone", "mobile"),
            Map.entry("dateofbirth", "birthdate"),
            Map.entry("companyname", "name"),
            Map.entry("countrycode", "country"));

    private static final String HASHED = "sha256";

    private RuleProposal() {}

    /**
     * Proposed rules, and the columns and fields that are left.
     *
     * @param columnsLeft columns no field took, without keys that a field of another name may take
     * @param fieldsLeft fields this login may write and no column fits
     */
    public record Proposal(List<FieldRule> rules, List<String> columnsLeft, List<String> fieldsLeft) {}

    /** @param country ISO 3166 code for phone numbers spelled without one */
    public static Proposal propose(Columns columns, ObjectDescription object, String country, String zone) {
        List<FieldRule> rules = new ArrayList<>();
        Set<String> taken = new HashSet<>();
        List<String> fieldsLeft = new ArrayList<>();
        for (Field field : object.fields()) {
            if (!field.mayBeWritten()) {
                continue;
            }
            Optional<Column> column = columns.list().stream()
                    .filter(candidate -> candidate.role() != ColumnRole.SENSITIVE)
                    .filter(candidate -> !taken.contains(candidate.name()))
                    .filter(candidate -> meaning(candidate.name()).equals(fieldMeaning(field.name()))
                            || meaning(candidate.name()).equals(fieldMeaning(field.title())))
                    .findFirst();
            column.ifPresentOrElse(
                    found -> {
                        taken.add(found.name());
                        rules.add(rule(field, found, phone(columns, country), zone));
                    },
                    () -> fieldsLeft.add(field.name()));
        }
        List<String> columnsLeft = columns.list().stream()
                .map(Column::name)
                .filter(name -> !taken.contains(name))
                .toList();
        return new Proposal(rules, columnsLeft, fieldsLeft);
    }

    /**
     * The usual rule that a field receives a column by: text is trimmed, an address normalised, and hashed where the field is named
     * after SHA-256.
     *
     * @param phone what phone numbers are spelled by, as {@link #phone} finds it
     */
    static FieldRule rule(Field field, Column column, E164 phone, String zone) {
        List<Shaper> shapers = new ArrayList<>();
        if (hashed(field.name())) {
            normalised(fieldMeaning(field.name()), phone).ifPresent(shapers::add);
            shapers.add(new Sha256());
            return FieldRule.of(field.name(), new Receives.FromColumn(column.name()), shapers.toArray(Shaper[]::new));
        }
        if (column.type() == ColumnType.TEXT) {
            shapers.add(new Trim());
        }
        if (field.kind() == FieldKind.EMAIL) {
            shapers.add(new LowerCase());
        } else if (field.kind() == FieldKind.PHONE) {
            shapers.add(phone);
        } else if (field.kind() == FieldKind.DATE && column.type() != ColumnType.DATE) {
            shapers.add(new ToDate("", zone));
        }
        return FieldRule.of(field.name(), new Receives.FromColumn(column.name()), shapers.toArray(Shaper[]::new));
    }

    /**
     * A number is read by the country of its row, where a column tells it.
     *
     * @param country ISO 3166 code for numbers spelled without one, where no column tells it; blank when nobody knows, so that somebody is
     *     asked
     */
    static E164 phone(Columns columns, String country) {
        return new E164(
                country,
                columns.list().stream()
                        .filter(column -> column.type() == ColumnType.TEXT && column.role() != ColumnRole.SENSITIVE)
                        .map(Column::name)
                        .filter(name -> meaning(name).equals("country"))
                        .findFirst()
                        .orElse(""));
    }

    private static Optional<Shaper> normalised(String meaning, E164 phone) {
        return switch (meaning) {
            case "email" -> Optional.of(new NormaliseEmail(false));
            case "mobile" -> Optional.of(phone);
            default -> Optional.of(new Trim());
        };
    }

    private static boolean hashed(String field) {
        return field.toLowerCase(Locale.ROOT).endsWith(HASHED);
    }

    /** A hash of something has the meaning of that. */
    private static String fieldMeaning(String name) {
        return meaning(hashed(name) ? name.substring(0, name.length() - HASHED.length()) : name);
    }

    private static String meaning(String name) {
        String plain = name.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]", "");
        return SAME_MEANING.getOrDefault(plain, plain);
    }
}
