package remitto.core.columnprofile;

import com.dynatrace.hash4j.distinctcount.UltraLogLog;
import com.dynatrace.hash4j.hashing.Hasher64;
import com.dynatrace.hash4j.hashing.Hashing;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;

/**
 * Counts what one column holds. Values are counted one by one while there are few, then by their hashes of 64 bits; of more than 10,000, their number is estimated by UltraLogLog
 * (Otmar Ertl, "UltraLogLog: A Practical and More Space-Efficient Alternative to HyperLogLog for Approximate Distinct Counting", PVLDB
 * 17(7), 2024) with a precision of 12, whose standard error is 0.78 / sqrt(2^12).
 */
final class ColumnTally {
    private static final int COUNTED = 200;
    private static final int HASHED = 10_000;
    /** Of all columns together, so that a dataset of very many columns takes no more memory than one of a hundred. */
    private static final int HASHED_IN_ALL = 1_000_000;

    private static final int PRECISION = 12;
    private static final int SHOWN = 8;
    private static final Hasher64 HASHER = Hashing.wyhashFinal4();

    private final Column column;
    private final int at;
    private final boolean valuesKept;
    private final boolean placed;
    private final int most;
    private final int told;
    private final Map<String, long[]> counted = new HashMap<>();
    private final Set<Long> hashes = new HashSet<>();
    private final UltraLogLog distinct = UltraLogLog.create(PRECISION);
    private boolean many;
    private boolean tooMany;
    private long empty;
    private long present;
    private long unreadable;
    private String least = "";
    private String greatest = "";
    private double leastPlace = Double.POSITIVE_INFINITY;
    private double greatestPlace = Double.NEGATIVE_INFINITY;
    private int shortest = Integer.MAX_VALUE;
    private int longest = -1;

    /**
     * @param at position of the column
     * @param columns how many there are
     */
    ColumnTally(Column column, int at, int columns) {
        this.most = Math.min(HASHED, HASHED_IN_ALL / columns);
        this.told = Math.min(COUNTED, most);
        this.column = column;
        this.at = at;
        this.placed = Scale.has(column.type());
        this.valuesKept = column.role() != ColumnRole.SENSITIVE
                && column.role() != ColumnRole.KEY
                && column.role() != ColumnRole.IDENTIFIER;
    }

    void see(@Nullable String[] cells) {
        String cell = cells[at];
        if (cell == null || cell.isBlank()) {
            empty++;
            return;
        }
        present++;
        count(LongTexts.bounded(cell));
        if (placed) {
            place(cell);
        } else if (column.type() == ColumnType.TEXT) {
            shortest = Math.min(shortest, cell.length());
            longest = Math.max(longest, cell.length());
        }
    }

    private void count(String cell) {
        if (many) {
            countHash(HASHER.hashCharsToLong(cell));
            return;
        }
        long[] rows = counted.get(cell);
        if (rows != null) {
            rows[0]++;
        } else if (counted.size() < told) {
            counted.put(cell, new long[] {1});
        } else {
            many = true;
            counted.keySet().forEach(one -> countHash(HASHER.hashCharsToLong(one)));
            counted.clear();
            countHash(HASHER.hashCharsToLong(cell));
        }
    }

    private void countHash(long hash) {
        if (tooMany) {
            distinct.add(hash);
        } else if (hashes.add(hash) && hashes.size() > most) {
            tooMany = true;
            hashes.forEach(distinct::add);
            hashes.clear();
        }
    }

    private long distinct() {
        return many ? hashes.size() : counted.size();
    }

    private void place(String cell) {
        double place = Scale.place(column.type(), cell);
        if (Double.isNaN(place)) {
            unreadable++;
            return;
        }
        if (place < leastPlace) {
            leastPlace = place;
            least = cell;
        }
        if (place > greatestPlace) {
            greatestPlace = place;
            greatest = cell;
        }
    }

    ColumnProfile profile(RowSample sample) {
        return new ColumnProfile(
                column.name(),
                column.type(),
                empty,
                tooMany ? Math.min(present, Math.round(distinct.getDistinctCountEstimate())) : distinct(),
                !tooMany,
                unreadable,
                valuesKept ? Optional.of(least).filter(text -> !text.isEmpty()) : Optional.empty(),
                valuesKept ? Optional.of(greatest).filter(text -> !text.isEmpty()) : Optional.empty(),
                Optional.of(shortest).filter(length -> longest >= 0),
                Optional.of(longest).filter(length -> length >= 0),
                valuesKept ? commonest(sample) : List.of(),
                !many,
                valuesKept && leastPlace <= greatestPlace ? histogram(sample) : List.of());
    }

    private List<CommonValue> commonest(RowSample sample) {
        Stream<CommonValue> values = many
                ? inSample(sample).entrySet().stream()
                        .filter(one -> one.getValue()[0] >= ColumnProfile.FEW)
                        .map(one -> new CommonValue(one.getKey(), Math.round(one.getValue()[0] * sample.scale())))
                : counted.entrySet().stream().map(one -> new CommonValue(one.getKey(), one.getValue()[0]));
        return values.filter(one -> one.rows() >= ColumnProfile.FEW && LongTexts.isWhole(one.text()))
                .sorted(Comparator.comparingLong(CommonValue::rows).reversed().thenComparing(CommonValue::text))
                .limit(SHOWN)
                .toList();
    }

    private Map<String, long[]> inSample(RowSample sample) {
        Map<String, long[]> rows = new HashMap<>();
        cells(sample).forEach(cell -> rows.computeIfAbsent(cell, fresh -> new long[1])[0]++);
        return rows;
    }

    private List<HistogramBin> histogram(RowSample sample) {
        double[] places = cells(sample)
                .mapToDouble(cell -> Scale.place(column.type(), cell))
                .filter(place -> !Double.isNaN(place))
                .toArray();
        return Histogram.of(column.type(), places, sample.scale(), leastPlace, greatestPlace);
    }

    private Stream<String> cells(RowSample sample) {
        return sample.rows().stream()
                .map(cells -> cells[at])
                .filter(Objects::nonNull)
                .filter(cell -> !cell.isBlank());
    }
}
