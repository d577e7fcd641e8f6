package remitto.core.landed;

import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Reads rows as they came in into rows as they are kept. Not safe to share between threads. */
public final class RowReading {
    private final List<LandedColumn> columns;
    private final List<CellReading> readings;
    private final boolean[] spelled;

    /** @param zone tz database name of the zone of times that name none */
    public RowReading(List<LandedColumn> columns, String zone) {
        this.columns = columns;
        ZoneId of = ZoneId.of(zone);
        this.readings =
                columns.stream().map(column -> CellReading.of(column, of)).toList();
        this.spelled = new boolean[columns.size()];
        for (int i = 0; i < spelled.length; i++) {
            spelled[i] = !columns.get(i).spelling().isBlank();
        }
    }

    /** What became of a row. */
    public sealed interface Landed {
        /**
         * A row that is kept.
         *
         * @param cells in the order of the definition's columns; absent where there is no value
         * @param originals by name of the column, as the file spells them, of columns with a spelling of their own
         */
        record Kept(List<Optional<String>> cells, Map<String, String> originals) implements Landed {}

        /** @param problem what does not fit, in words, column by column */
        record Held(String problem) implements Landed {}
    }

    /** @param cells in the order of the definition's columns; {@code null} where the file has no value */
    public Landed read(@Nullable String[] cells) {
        List<Optional<String>> kept = new ArrayList<>(cells.length);
        Map<String, String> originals = Map.of();
        List<String> problems = List.of();
        for (int i = 0; i < cells.length; i++) {
            String text = cells[i];
            if (text == null) {
                kept.add(Optional.empty());
                continue;
            }
            CellReading.Cell cell = checked(i, text);
            if (cell instanceof CellReading.Cell.Fits fits) {
                kept.add(fits.text());
                if (spelled[i] && !text.isBlank() && !fits.text().equals(Optional.of(text))) {
                    originals = originals.isEmpty() ? new LinkedHashMap<>() : originals;
                    originals.put(columns.get(i).name(), text);
                }
            } else if (cell instanceof CellReading.Cell.DoesNotFit not) {
                problems = problems.isEmpty() ? new ArrayList<>() : problems;
                problems.add(not.problem());
            }
        }
        return problems.isEmpty()
                ? new Landed.Kept(kept, originals)
                : new Landed.Held(String.join("; ", problems.subList(0, Math.min(5, problems.size()))));
    }

    private CellReading.Cell checked(int at, String text) {
        boolean nul = false;
        boolean foreign = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            nul |= c == 0;
            foreign |= c == '\uFFFD';
        }
        if (nul) {
            return new CellReading.Cell.DoesNotFit(
                    columns.get(at).name() + ": holds a NUL character, which no database keeps in text");
        }
        if (foreign) {
            return new CellReading.Cell.DoesNotFit(
                    columns.get(at).name() + ": holds a character that is not of the file's encoding");
        }
        return readings.get(at).read(text);
    }
}
