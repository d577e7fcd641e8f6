package remitto.connect.source;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * What rows are read from. Cells come as text in the source's own spelling of their type; an empty cell is {@code null}, and a blank
 * text stays one. Reading never writes, whatever is asked. Whatever fails, fails with a {@link SourceProblem}; no call lasts longer
 * than the time it is given.
 */
public interface RowSource {
    /** What not every kind of source can do. */
    enum Ability {
        /** Runs queries that somebody wrote in its own language. */
        OWN_QUERIES
    }

    Set<Ability> abilities();

    /** Whom the source takes us for, and what may be read there. */
    SourceReport check();

    /** Columns and types of what is asked for, in its order, without reading it. */
    List<Preview.PreviewColumn> describe(SourceQuery query, Duration time);

    /** The first rows, in no certain order. */
    Preview preview(SourceQuery query, int rows, Duration time);

    /**
     * Hands over rows, in no certain order.
     *
     * @throws SourceProblem of kind {@code COLUMN_GONE} if a wanted column is not there
     */
    void read(Reading reading, RowSink sink);

    /**
     * How good a key some columns are.
     *
     * @param examples most keys of several rows that are told
     */
    KeyFindings checkKey(SourceQuery query, List<String> keys, int examples, Duration time);

    /**
     * How many rows there are, and how new the newest is.
     *
     * @param updatedAt column of a date or a time
     */
    Extent probe(SourceQuery query, Optional<String> updatedAt, Duration time);

    /**
     * What tells whether rows may have changed since somebody asked last, for as little as the source can do it.
     *
     * @param updatedAt column of a date or a time, looked at where nothing cheaper tells
     */
    default Mark mark(SourceQuery query, Optional<String> updatedAt, Duration time) {
        Extent extent = probe(query, updatedAt, time);
        return new Mark(
                updatedAt.isPresent() ? Means.NEWEST_AND_COUNT : Means.COUNT,
                extent.rows() + " " + extent.newest().orElse(""));
    }

    /** The texts of a column, the most frequent first, and equally frequent ones by their spelling; empty cells aside. */
    List<Word> words(SourceQuery query, String column, int most, Duration time);

    /**
     * Hands over what a way through datasets finds: the value looked for, then the columns that the way gives, for each value the
     * first first.
     *
     * @param keys the values looked for; none for every one there is
     */
    void lookUp(LookUp lookUp, List<String> keys, Duration time, RowSink sink);

    /**
     * How good a key some columns are.
     *
     * @param blanks rows of which a key cell is empty or blank
     * @param doubled keys that more than one row has, rows with blanks aside
     * @param examples some of these, cell by cell
     */
    record KeyFindings(long rows, long blanks, long doubled, List<List<String>> examples) {}

    /** @param newest as the source spells it; absent without rows or without the column */
    record Extent(long rows, Optional<String> newest) {}

    /** What a mark is made of. */
    enum Means {
        /** Counts that the server keeps of everything written to the tables; no row is read. A write of a session that goes on in a long transaction shows late. */
        COUNTERS,
        /** The newest updated-at and the number of rows. A row that changes without its updated-at is missed. */
        NEWEST_AND_COUNT,
        /** The number of rows alone. A row that changes is missed. */
        COUNT
    }

    /** @param text the same as before if nothing changed, as far as the means tell */
    record Mark(Means means, String text) {}

    /** A text and how many rows hold it. */
    record Word(String text, long rows) {}
}
