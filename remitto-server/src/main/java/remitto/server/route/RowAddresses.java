package remitto.server.route;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import remitto.core.consent.AddressHash;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Row;
import remitto.core.fieldrule.Receives;
import remitto.core.shaper.E164;

/**
 * The addresses in the rows that a route reads, as hashes: those in the columns that are identifiers. A phone number without its country
 * is read by the country of its row, as the route's rules or a column called country tell it; where nothing does, as everything it may mean.
 */
public final class RowAddresses {
    private static final int COUNTRY_LENGTH = 2;
    private static final Pattern PHONE = Pattern.compile("phone|mobile|tel|cell|msisdn|sms", Pattern.CASE_INSENSITIVE);

    private final List<String> columns;
    private final Map<String, E164> byRule = new HashMap<>();

    public RowAddresses(BoundRoute route) {
        this.columns = route.columns().list().stream()
                .filter(column -> column.role() == ColumnRole.IDENTIFIER)
                .map(Column::name)
                .toList();
        route.route().spec().rules().forEach(rule -> rule.shapers().stream()
                .filter(E164.class::isInstance)
                .findFirst()
                .ifPresent(shaper -> {
                    if (rule.receives() instanceof Receives.FromColumn from) {
                        byRule.putIfAbsent(from.column(), (E164) shaper);
                    }
                }));
    }

    /** @return what is no address is missing; can be added to */
    public Set<String> of(Row row) {
        Set<String> hashes = new LinkedHashSet<>();
        for (String column : columns) {
            row.cell(column)
                    .filter(cell -> !cell.isBlank())
                    .ifPresent(cell -> hashes.addAll(hashes(row, column, cell)));
        }
        return hashes;
    }

    /** A number of customers is no phone number, though many of them could be one somewhere. */
    private Set<String> hashes(Row row, String column, String cell) {
        String country = country(row, column);
        return country.isEmpty()
                        && !byRule.containsKey(column)
                        && !PHONE.matcher(column).find()
                ? AddressHash.of(cell, "").map(Set::of).orElse(Set.of())
                : AddressHash.meanings(cell, country);
    }

    private String country(Row row, String column) {
        Optional<E164> rule = Optional.ofNullable(byRule.get(column));
        return rule.map(E164::countryColumn)
                .flatMap(name -> code(row, name))
                .or(() -> code(row, "country"))
                .or(() -> rule.map(E164::country).filter(code -> code.length() == COUNTRY_LENGTH))
                .orElse("");
    }

    private static Optional<String> code(Row row, String column) {
        return row.cell(column).map(String::strip).filter(cell -> cell.length() == COUNTRY_LENGTH);
    }
}
