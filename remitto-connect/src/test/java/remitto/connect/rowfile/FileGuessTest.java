package remitto.connect.rowfile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.fileset.FileFormat;
import remitto.core.landed.ColumnGuess;

class FileGuessTest {
    private static FileGuess guess(byte[] bytes) {
        try {
            return FileGuess.of(FileSample.of(new ByteArrayInputStream(bytes)));
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static FileGuess guess(String text) {
        return guess(text.getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void aFileIsLookedAtFromItsPackingToItsKey() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream zip = new GZIPOutputStream(out)) {
            zip.write(
                    "Kai;Skip;Ankomst;Lengde\n1;Ternen;24.12.2026 08:00;12,5\n2;Lommen;25.12.2026 09:30;7,25\n3;Ternen;;9,0\n"
                            .getBytes(Charset.forName("windows-1252")));
        }
        FileGuess guess = guess(out.toByteArray());
        assertThat(guess.packing()).isEqualTo("gzip");
        assertThat(guess.format()).isEqualTo(new FileFormat.Delimited(";", "\"", "UTF-8", 0, true));
        assertThat(guess.rows()).isEqualTo(3);
        assertThat(guess.columns())
                .extracting(one -> one.column().name() + " " + one.column().type() + " "
                        + one.column().spelling())
                .containsExactly(
                        "kai INTEGER ", "skip TEXT ", "ankomst TIMESTAMP dd.MM.uuuu HH:mm", "lengde DECIMAL comma");
        assertThat(guess.evidence())
                .containsExactly(
                        "The file is packed by gzip.",
                        "All bytes are ASCII, which UTF-8 reads the same.",
                        "A semicolon gives 4 columns in 4 of 4 rows.",
                        "The first row has a text in every cell, so it names the columns.",
                        "A different value in each of 3 rows: kai, lengde.");
    }

    /** Texts of some length, each in its usual encoding; what they are is told by ICU's detector or by their bytes. */
    @ParameterizedTest
    @CsvSource({
        "UTF-8,        'Skipet ligger ved kaia i Tromsø og Ålesund; været er dårlig, sa båtføreren på broen.', UTF-8",
        "UTF-16,       'Skipet ligger ved kaia i Tromsø.', UTF-16",
        "windows-1252, 'Skipet ligger ved kaia i Tromsø og Ålesund. Været er dårlig, sa båtføreren på broen til de andre.', windows-1252",
        "windows-1251, 'Судно стоит у причала в порту, и погода сегодня очень плохая, сказал капитан на мостике.', windows-1251",
        "KOI8-R,       'Судно стоит у причала в порту, и погода сегодня очень плохая, сказал капитан на мостике.', KOI8-R",
        "ISO-8859-7,   'Το πλοίο είναι στο λιμάνι και ο καιρός είναι πολύ κακός σήμερα είπε ο καπετάνιος στη γέφυρα.', ISO-8859-7",
        "Shift_JIS,    '船は今日も港に停泊しています。天気がとても悪いと船長は言いました。', Shift_JIS",
        "EUC-JP,       '船は今日も港に停泊しています。天気がとても悪いと船長は言いました。', EUC-JP",
        "Big5,         '船今天仍然停泊在港口。船長說天氣非常不好，所以我們明天再出發。', Big5",
        "EUC-KR,       '배는 오늘도 항구에 정박해 있습니다. 선장은 날씨가 매우 나쁘다고 말했습니다.', EUC-KR"
    })
    void theEncodingOfATextIsTold(String written, String text, String expected) {
        byte[] bytes = ("id;words\n" + ("1;" + text + "\n").repeat(5)).getBytes(Charset.forName(written));
        FileGuess guess = guess(bytes);
        assertThat(((FileFormat.Delimited) guess.format()).encoding()).isEqualTo(expected);
    }

    @Test
    void theEvidenceOfAnEncodingShowsAWord() {
        byte[] bytes = "by\nTromsø\nÅlesund\nBodø\n".getBytes(Charset.forName("windows-1252"));
        assertThat(guess(bytes).evidence().get(0)).startsWith("Byte 9 is not UTF-8. ");
        assertThat(guess("by\nTromsø\n").evidence().get(0))
                .isEqualTo("All bytes are valid UTF-8, for example \"Tromsø\".");
    }

    @Test
    void aCharacterThatTheSampleCutsIsNoFault() throws IOException {
        byte[] bytes = ("n\n" + "ø".repeat(600_000)).getBytes(StandardCharsets.UTF_8);
        FileSample sample = FileSample.of(new ByteArrayInputStream(bytes));
        assertThat(sample.whole()).isFalse();
        assertThat(EncodingGuess.of(java.util.Arrays.copyOf(bytes, 11), false).charset())
                .isEqualTo("UTF-8");
        assertThat(EncodingGuess.of(java.util.Arrays.copyOf(bytes, 11), true).charset())
                .isNotEqualTo("UTF-8");
    }

    @Test
    void jsonIsToldFromTextThatBeginsLikeIt() {
        assertThat(guess("{\"no\": 1, \"who\": {\"name\": \"Ada\"}}\n{\"no\": 2}\n")
                        .format())
                .isEqualTo(new FileFormat.ObjectLines());
        FileGuess array = guess("\n[{\"no\": 1}, {\"no\": 2, \"at\": \"2026-12-01\"}]");
        assertThat(array.format()).isEqualTo(new FileFormat.ObjectArray());
        assertThat(array.columns()).extracting(one -> one.column().name()).containsExactly("no", "at");
        assertThat(guess("[note],b\n1,2\n").format()).isInstanceOf(FileFormat.Delimited.class);
        assertThat(guess("{x},b\n1,2\n").format()).isInstanceOf(FileFormat.Delimited.class);
    }

    @Test
    void aFormThatSomebodyChoseIsFollowed() throws IOException {
        FileSample sample =
                FileSample.of(new ByteArrayInputStream("Berths\na;b\n1;2\n".getBytes(StandardCharsets.UTF_8)));
        FileGuess guess = FileGuess.of(sample, new FileFormat.Delimited(";", "", "UTF-8", 1, true));
        assertThat(guess.columns())
                .extracting(ColumnGuess::column)
                .extracting(one -> one.from())
                .containsExactly("a", "b");
        assertThat(guess.rows()).isEqualTo(1);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "PAR1\u0000\u0000", "%PDF-1.7\n"})
    void whatHoldsNoRowsIsSaid(String text) {
        assertThatThrownBy(() -> guess(text)).isInstanceOf(FileFault.class);
    }

    @Test
    void moreColumnsThanATableHasAreSaid() {
        assertThatThrownBy(() -> guess("a,".repeat(9_999) + "a\n"))
                .isInstanceOf(FileFault.class)
                .hasMessageContaining("10000 columns");
    }
}
