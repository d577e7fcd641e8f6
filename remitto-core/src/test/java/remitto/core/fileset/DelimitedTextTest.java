package remitto.core.fileset;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.Reader;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DelimitedTextTest {
    /** Gives a text a few characters at a time, as a network does. */
    private static Reader dripping(String text, int atATime) {
        return new Reader() {
            private int at;

            @Override
            public int read(char[] into, int from, int length) {
                int some = Math.min(Math.min(atATime, length), text.length() - at);
                text.getChars(at, at + some, into, from);
                at += some;
                return some == 0 ? -1 : some;
            }

            @Override
            public void close() {
                // nothing is open
            }
        };
    }

    private static List<String> records(DelimitedText text) throws IOException {
        List<String> records = new ArrayList<>();
        while (text.next()) {
            records.add(text.line() + ": "
                    + (text.problem().isEmpty()
                            ? text.cells().stream()
                                    .map(cell -> cell == null ? "-" : "<" + cell + ">")
                                    .collect(Collectors.joining())
                            : text.problem() + " " + text.text()));
        }
        return records;
    }

    private static List<String> records(String text) throws IOException {
        return records(new DelimitedText(new StringReader(text), ',', '"'));
    }

    /** RFC 4180, section 2: the examples of rules 1, 2, 5, 6 and 7. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "aaa,bbb,ccc\\r\\nzzz,yyy,xxx\\r\\n             | 1: <aaa><bbb><ccc> 2: <zzz><yyy><xxx>",
                "aaa,bbb,ccc\\r\\nzzz,yyy,xxx                   | 1: <aaa><bbb><ccc> 2: <zzz><yyy><xxx>",
                "\"aaa\",\"bbb\",\"ccc\"\\r\\nzzz,yyy,xxx       | 1: <aaa><bbb><ccc> 2: <zzz><yyy><xxx>",
                "\"aaa\",\"b\\r\\nbb\",\"ccc\"\\r\\nzzz,yyy,xxx | 1: <aaa><b\\r\\nbb><ccc> 3: <zzz><yyy><xxx>",
                "\"aaa\",\"b\"\"bb\",\"ccc\"                    | 1: <aaa><b\"bb><ccc>"
            })
    void theExamplesOfTheStandard(String text, String expected) throws IOException {
        assertThat(String.join(" ", records(text.strip().replace("\\r", "\r").replace("\\n", "\n"))))
                .isEqualTo(expected.replace("\\r", "\r").replace("\\n", "\n"));
    }

    /** Named after the tests of the W3C's CSV on the Web and common practice; from memory. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "a,,c                | 1: <a>-<c>",
                "a,\"\",c            | 1: <a><><c>",
                ",                   | 1: --",
                "a , b               | 1: <a >< b>",
                "a\\nb\\rc\\r\\nd    | 1: <a> 2: <b> 3: <c> 4: <d>",
                "a\\n\\n\\nb         | 1: <a> 4: <b>",
                "5\" pipe,x          | 1: <5\" pipe><x>",
                "\"a\\n\\nb\",c\\nd  | 1: <a\\n\\nb><c> 4: <d>",
                "\"\"\"\"            | 1: <\">",
                "a,\"b\"             | 1: <a><b>"
            })
    void whatFilesHold(String text, String expected) throws IOException {
        assertThat(String.join(" ", records(text.strip().replace("\\r", "\r").replace("\\n", "\n"))))
                .isEqualTo(expected.replace("\\r", "\r").replace("\\n", "\n"));
    }

    @Test
    void nothingHoldsNoRecords() throws IOException {
        assertThat(records("")).isEmpty();
        assertThat(records("\n\r\n\n")).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 7, 100})
    void howTheTextArrivesMakesNoDifference(int atATime) throws IOException {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 3_000; i++) {
            text.append(i)
                    .append(",\"Kai ")
                    .append(i)
                    .append("\r\n\"\"north\"\"\",")
                    .append("x".repeat(i % 90))
                    .append("\r\n");
        }
        assertThat(records(new DelimitedText(dripping(text.toString(), atATime), ',', '"')))
                .isEqualTo(records(text.toString()))
                .hasSize(3_000);
    }

    /** The first line of a malformed record is malformed, and nothing of the next is lost. */
    @Test
    void aQuoteThatIsLeftOpenTakesNothingWithIt() throws IOException {
        DelimitedText text = new DelimitedText(
                new StringReader("1,Ada,Oslo\n2,\"Bo,Vik\n3,Cy,\"Kai\"\n4,\"Di \"\"D\"\"\",Ås\n5,\"E\nE\",Å\n"),
                ',',
                '"');
        text.expect(3);
        assertThat(records(text))
                .containsExactly(
                        "1: <1><Ada><Oslo>",
                        "2: The row has characters after the quotes of cell 2. 2,\"Bo,Vik",
                        "3: <3><Cy><Kai>",
                        "4: <4><Di \"D\"><Ås>",
                        "5: <5><E\nE><Å>");
    }

    @Test
    void aQuoteThatNothingClosesIsToldAtTheEnd() throws IOException {
        assertThat(records("a,b\n\"c,d\ne,f"))
                .containsExactly(
                        "1: <a><b>", "2: The row opens a quote in cell 1 that nothing closes. \"c,d", "3: <e><f>");
    }

    /** Two quotes left open make one cell of all between them; the number of cells gives it away. */
    @Test
    void twoQuotesThatAreLeftOpenAreTwoMalformedRecords() throws IOException {
        DelimitedText text = new DelimitedText(new StringReader("1,\"a,x\n2,b,y\n3,c\",z,z\n4,d,w\n"), ',', '"');
        text.expect(3);
        assertThat(records(text))
                .containsExactly(
                        "1: The row has 4 cells where 3 are expected. 1,\"a,x",
                        "2: <2><b><y>",
                        "3: The row has 4 cells where 3 are expected. 3,c\",z,z",
                        "4: <4><d><w>");
    }

    @Test
    void aCellThatGoesOnForThousandsOfLinesIsAQuoteLeftOpen() throws IOException {
        String text = "1,\"a\n" + "2,b\n".repeat(5_000);
        List<String> records = records(text);
        assertThat(records).hasSize(5_001);
        assertThat(records.get(0))
                .isEqualTo("1: The row opens a quote in cell 2 that is not closed within 1,000 lines. 1,\"a");
        assertThat(records.get(5_000)).isEqualTo("5001: <2><b>");
    }

    /** A cell of 100 MB takes no more memory than a long one. */
    @ParameterizedTest
    @ValueSource(strings = {"", "\""})
    void anEndlessCellCostsItsRecordAlone(String quote) throws IOException {
        String big = "1," + quote;
        Reader reader = new Reader() {
            private final StringReader before = new StringReader(big);
            private final StringReader after = new StringReader(quote + "\n2,b\n");
            private long left = 100_000_000;

            @Override
            public int read(char[] into, int from, int length) throws IOException {
                int some = before.read(into, from, length);
                if (some > 0) {
                    return some;
                }
                if (left > 0) {
                    int more = (int) Math.min(left, length);
                    java.util.Arrays.fill(into, from, from + more, 'x');
                    left -= more;
                    return more;
                }
                return after.read(into, from, length);
            }

            @Override
            public void close() {
                // nothing is open
            }
        };
        List<String> records = records(new DelimitedText(reader, ',', '"'));
        assertThat(records).hasSize(2);
        assertThat(records.get(0))
                .startsWith("1: The row has a cell of more than 1,000,000 characters. 1," + quote + "xxx")
                .hasSizeLessThan(101_000);
        assertThat(records.get(1)).isEqualTo("2: <2><b>");
    }

    @Test
    void cellsBeyondCountingAreMalformed() throws IOException {
        assertThat(records("a\n" + ",".repeat(20_000) + "\nb"))
                .hasSize(3)
                .satisfies(all -> assertThat(all.get(1)).startsWith("2: The row has more than 10000 cells."))
                .endsWith("3: <b>");
    }

    @Test
    void otherDelimitersAndNoQuotes() throws IOException {
        assertThat(records(new DelimitedText(new StringReader("a;\"b;c\nd;e;f"), ';', (char) 0)))
                .containsExactly("1: <a><\"b><c>", "2: <d><e><f>");
        assertThat(records(new DelimitedText(new StringReader("a\t'b\tc'\n"), '\t', '\'')))
                .containsExactly("1: <a><b\tc>");
    }

    @Test
    void linesAreSkippedAndCounted() throws IOException {
        DelimitedText text = new DelimitedText(new StringReader("Berths\r\nof \"May\n\na,b\n"), ',', '"');
        text.skipLines(2);
        assertThat(records(text)).containsExactly("4: <a><b>");
        DelimitedText all = new DelimitedText(new StringReader("a\nb"), ',', '"');
        all.skipLines(9);
        assertThat(records(all)).isEmpty();
    }
}
