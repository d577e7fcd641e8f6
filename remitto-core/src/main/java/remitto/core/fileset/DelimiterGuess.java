package remitto.core.fileset;

import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How values are set apart from one another, and whether the first row names them.
 *
 * @param evidence sentences about what speaks for it
 */
public record DelimiterGuess(char delimiter, boolean header, List<String> evidence) {
    private static final List<Character> DELIMITERS = List.of(',', ';', '\t', '|', ':', '^', '~');
    private static final int ROWS = 200;

    private record Tried(char delimiter, int cells, int fitting, int rows) {
        /** One column is what every text has, and says nothing. */
        double worth() {
            return cells < 2 ? 0 : (double) fitting / rows + Math.min(cells, 50) / 1_000.0;
        }
    }

    /** @param sample of whole lines */
    public static DelimiterGuess of(String sample) {
        List<Tried> tried = DELIMITERS.stream().map(one -> tried(sample, one)).toList();
        Tried best =
                tried.stream().max(Comparator.comparingDouble(Tried::worth)).orElseThrow();
        if (best.worth() == 0) {
            best = tried.get(0);
        }
        List<String> evidence = new ArrayList<>();
        evidence.add(
                best.cells() < 2
                        ? "No delimiter gives more than one column."
                        : words(best.delimiter()) + " gives " + best.cells() + " columns in " + best.fitting() + " of "
                                + best.rows() + " rows.");
        List<List<@Nullable String>> rows = rows(sample, best.delimiter());
        boolean header = header(rows, evidence);
        return new DelimiterGuess(best.delimiter(), header, List.copyOf(evidence));
    }

    /** The first rows of a text, malformed ones aside. */
    public static List<List<@Nullable String>> rows(String sample, char delimiter) {
        try {
            DelimitedText text = new DelimitedText(new StringReader(sample), delimiter, '"');
            List<List<@Nullable String>> rows = new ArrayList<>();
            while (rows.size() < ROWS && text.next()) {
                if (text.problem().isEmpty()) {
                    rows.add(new ArrayList<>(text.cells()));
                }
            }
            return rows;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Tried tried(String sample, char delimiter) {
        List<Integer> counts = rows(sample, delimiter).stream().map(List::size).toList();
        int most = counts.stream()
                .max(Comparator.comparingLong((Integer one) ->
                                counts.stream().filter(one::equals).count())
                        .thenComparing(Comparator.naturalOrder()))
                .orElse(0);
        return new Tried(
                delimiter,
                most,
                (int) counts.stream().filter(one -> one == most).count(),
                Math.max(1, counts.size()));
    }

    private static String words(char delimiter) {
        return switch (delimiter) {
            case ',' -> "A comma";
            case ';' -> "A semicolon";
            case '\t' -> "A tab";
            case '|' -> "A vertical bar";
            default -> "\"" + delimiter + "\"";
        };
    }

    private static boolean header(List<List<@Nullable String>> rows, List<String> evidence) {
        if (rows.isEmpty()) {
            return false;
        }
        Set<String> names = new HashSet<>();
        for (String name : rows.get(0)) {
            if (name == null || name.isBlank()) {
                evidence.add("The first row has an empty cell, so it names no columns.");
                return false;
            }
            if (name.strip().matches("[+-]?\\d.*")) {
                evidence.add("The first row has a number (" + name.strip() + "), so it names no columns.");
                return false;
            }
            if (!names.add(name.strip())) {
                evidence.add(
                        "The first row has \"" + name.strip() + "\" twice; columns are told apart by their place.");
            }
        }
        evidence.add("The first row has a text in every cell, so it names the columns.");
        return true;
    }
}
