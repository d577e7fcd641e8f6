package remitto.server.route;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import remitto.core.consent.AddressHash;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Row;

/** The addresses in the rows that a route reads, as hashes: those in the columns that are identifiers. */
public final class RowAddresses {
    private static final String COUNTRY = "NO";
    private static final int COUNTRY_LENGTH = 2;

    private final List<String> columns;

    public RowAddresses(BoundRoute route) {
        this.columns = route.columns().list().stream()
                .filter(column -> column.role() == ColumnRole.IDENTIFIER)
                .map(Column::name)
                .toList();
    }

    /** @return what is no address is missing; can be added to */
    public Set<String> of(Row row) {
        String country = row.cell("country")
                .map(String::strip)
                .filter(cell -> cell.length() == COUNTRY_LENGTH)
                .orElse(COUNTRY);
        List<String> texts = new ArrayList<>();
        columns.forEach(
                column -> row.cell(column).filter(cell -> !cell.isBlank()).ifPresent(texts::add));
        return AddressHash.ofAll(texts, country);
    }
}
