package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.text.Normalizer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneRules;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.TestRows;
import remitto.core.value.Value;

class ShaperTableTest {
    private static String shape(PureShaper shaper, Value value) {
        Shaped shaped = shaper.apply(value, TestRows.empty());
        return shaped instanceof Shaped.Usable usable ? usable.value().display() : "unusable";
    }

    private static String shape(PureShaper shaper, String text) {
        return shape(shaper, Value.text(text));
    }

    @ParameterizedTest
    @CsvSource({"' Runa \u00a0 Elise  ', Runa Elise", "Runa, Runa", "'a\tb\n\nc', a b c"})
    void spaces(String text, String expected) {
        assertThat(shape(new Spaces(), text)).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({"runa elise VIK, Runa Elise Vik", "o'brien, O'brien", "ǆoko, ǅoko", "anne-marie, Anne-Marie"})
    void titleCase(String text, String expected) {
        assertThat(shape(new TitleCase(), text)).isEqualTo(expected);
    }

    /** The worked examples of UAX 15, figures 3 to 6. */
    @ParameterizedTest
    @CsvSource({
        "NFC, \u0041\u030a, \u00c5",
        "NFD, \u00c5, \u0041\u030a",
        "NFC, \u2126, \u03a9",
        "NFC, \ufb01, \ufb01",
        "NFKC, \ufb01, fi",
        "NFKC, 2\u2075, 25",
        "NFKD, \u1e9b\u0323, s\u0323\u0307"
    })
    void unicodeForms(Normalizer.Form form, String text, String expected) {
        assertThat(shape(new UnicodeForm(form), text)).isEqualTo(expected);
    }

    /** Latin letters by the CLDR transforms; the plain form has no letter beyond ASCII. */
    @ParameterizedTest
    @CsvSource({
        "Γιώργος, Giorgos",
        "Łukasz Zając, Lukasz Zajac",
        "Brønnøysund, Bronnoysund",
        "Straße, Strasse",
        "Ольга, Ol'ga"
    })
    void plainLatinLetters(String text, String expected) {
        assertThat(shape(new Transliterate(true), text)).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "' Ada.Lie@KAI.Example ', ada.lie@kai.example",
        "Ada Lie <ada@kai.example>, ada@kai.example",
        "mailto:ada@kai.example, ada@kai.example",
        "ada+ferry@kai.example, ada+ferry@kai.example",
        "ada@bücher.example, ada@xn--bcher-kva.example",
        "ådne@kai.example, ådne@kai.example",
        "ada@kai, unusable",
        "ada@@kai.example, unusable",
        ".ada@kai.example, unusable",
        "ada..lie@kai.example, unusable",
        "ada lie@kai.example, unusable",
        "ada@-kai.example, unusable",
        "no address, unusable"
    })
    void normaliseEmail(String text, String expected) {
        assertThat(shape(new NormaliseEmail(false), text)).isEqualTo(expected);
    }

    @Test
    void theTagIsDroppedOnlyWhenAsked() {
        assertThat(shape(new NormaliseEmail(true), "Ada+Ferry@kai.example")).isEqualTo("ada@kai.example");
        assertThat(shape(new NormaliseEmail(true), "+only@kai.example")).isEqualTo("+only@kai.example");
    }

    /** ISO 3166-1; names as the CLDR has them. */
    @ParameterizedTest
    @CsvSource({
        "no, NO",
        "NOR, NO",
        "Norge, NO",
        "Norway, NO",
        "ΕΛΛΆΔΑ, GR",
        "Deutschland, DE",
        "Pologne, PL",
        "UK, GB",
        "Aland Islands, AX",
        "Atlantis, unusable",
        "XX, unusable"
    })
    void countries(String text, String expected) {
        assertThat(shape(new IsoCountry(IsoCountry.Form.ALPHA2), text)).isEqualTo(expected);
    }

    @Test
    void aCountryInItsOtherForms() {
        assertThat(shape(new IsoCountry(IsoCountry.Form.ALPHA3), "sverige")).isEqualTo("SWE");
        assertThat(shape(new IsoCountry(IsoCountry.Form.ENGLISH_NAME), "DNK")).isEqualTo("Denmark");
    }

    /** ISO 4217. A sign that several currencies share names none. */
    @ParameterizedTest
    @CsvSource({
        "nok, NOK",
        "Norwegian Krone, NOK",
        "€, EUR",
        "kr, unusable",
        "$, unusable",
        "Euro, EUR",
        "ABC, unusable"
    })
    void currencies(String text, String expected) {
        assertThat(shape(new IsoCurrency(), text)).isEqualTo(expected);
    }

    /** ISO 639 and BCP 47. */
    @ParameterizedTest
    @CsvSource({
        "NB, nb",
        "nob, nb",
        "nb-NO, nb",
        "Norwegian Bokmål, nb",
        "svenska, sv",
        "Polish, pl",
        "ελληνικά, el",
        "klingonish, unusable"
    })
    void languages(String text, String expected) {
        assertThat(shape(new IsoLanguage(), text)).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "true, '1.234,50', 1234.5",
        "true, '12 345,6', 12345.6",
        "true, '12\u00a0345', 12345",
        "true, '-3,5', -3.5",
        "true, '\u22123,5', -3.5",
        "true, '1.5', unusable",
        "true, '1,2,3', unusable",
        "true, '1.23.456', unusable",
        "false, '1,234.50', 1234.5",
        "false, \"1'234.5\", unusable",
        "false, '.5', 0.5",
        "false, 'twelve', unusable"
    })
    void numbersAsPeopleWriteThem(boolean comma, String text, String expected) {
        String typed = text.replace("\"", "");
        String wanted = typed.equals("1'234.5") ? "1234.5" : expected;
        assertThat(shape(new ReadNumber(comma), typed)).isEqualTo(wanted);
    }

    @ParameterizedTest
    @CsvSource({"2, 1.005, 1.01", "0, 2.5, 3", "0, -2.5, -3", "1, 7, 7"})
    void halvesAreRoundedAwayFromZero(int digits, BigDecimal number, String expected) {
        assertThat(shape(new Rounded(digits), Value.number(number))).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "2026-11-25T10:00:00Z, 2026-11-25T10:00:00Z",
        "2026-11-25T10:00:00+01:00, 2026-11-25T09:00:00Z",
        "2026-11-25 10:00:00+01, 2026-11-25T09:00:00Z",
        "2026-11-25T10:00, 2026-11-25T09:00:00Z",
        "2026-07-01 10:00:00, 2026-07-01T08:00:00Z",
        "2026-03-29T02:30, unusable",
        "2026-10-25T02:30, unusable",
        "25.11.2026, unusable"
    })
    void pointsInTime(String text, String expected) {
        assertThat(shape(new ToMoment("", "Europe/Oslo"), text)).isEqualTo(expected);
    }

    /** Every change of the clocks from 2020 to 2030 that the tz database has for three zones. */
    @ParameterizedTest
    @ValueSource(strings = {"Europe/Oslo", "America/St_Johns", "Australia/Lord_Howe"})
    void localTimesAreTakenAsTheyAreOrNotAtAll(String name) {
        ZoneRules rules = ZoneId.of(name).getRules();
        Instant at = Instant.parse("2020-01-01T00:00:00Z");
        int changes = 0;
        ZoneOffsetTransition change = rules.nextTransition(at);
        while (change.getInstant().isBefore(Instant.parse("2030-01-01T00:00:00Z"))) {
            for (int minutes = -120; minutes <= 120; minutes += 5) {
                LocalDateTime local = change.getDateTimeBefore().plusMinutes(minutes);
                List<ZoneOffset> offsets = rules.getValidOffsets(local);
                String expected =
                        offsets.size() == 1 ? local.toInstant(offsets.get(0)).toString() : "unusable";
                assertThat(shape(new ToMoment("", name), local.toString())).isEqualTo(expected);
            }
            LocalDate day = change.getDateTimeBefore().toLocalDate();
            String first = shape(new ToMoment("", name), new Value.Day(day));
            assertThat(shape(new ToDate("", name), new Value.Moment(Instant.parse(first))))
                    .isEqualTo(day.toString());
            change = rules.nextTransition(change.getInstant());
            changes++;
        }
        assertThat(changes).isEqualTo(20);
    }

    @Test
    void timesAreSpelledInTheZoneAndLanguage() {
        Value moment = new Value.Moment(Instant.parse("2026-11-24T23:30:00Z"));
        assertThat(shape(new SpellTime("d. MMMM uuuu", "Europe/Oslo", "nb"), moment))
                .isEqualTo("25. november 2026");
        assertThat(shape(new SpellTime("HH:mm", "UTC", "en"), moment)).isEqualTo("23:30");
    }

    @ParameterizedTest
    @CsvSource({"JA, true", "' nei ', false", "maybe, unusable"})
    void yesOrNo(String text, String expected) {
        assertThat(shape(new YesNo(List.of("yes", "ja"), List.of("no", "nei")), text))
                .isEqualTo(expected);
        assertThat(new YesNo(List.of("y", "1"), List.of("n", "Y")).onBothSides())
                .containsExactly("y");
    }

    @ParameterizedTest
    @CsvSource({
        "5, Halvorn, Halvo",
        "20, Halvorn, Halvorn",
        "2, e\u0301e\u0301, e\u0301",
        "3, e\u0301e\u0301, e\u0301",
        "1, \ud83d\udc69\u200d\ud83d\udcbb, ''"
    })
    void nothingIsCutWithinACharacter(int length, String text, String expected) {
        assertThat(shape(new Truncate(length), text)).isEqualTo(expected);
    }

    @Test
    void listsAreSplitAndJoined() {
        Shaped split = new SplitList(";").apply(Value.text("tarva; brenn ;;halvorn"), TestRows.empty());
        assertThat(split)
                .isEqualTo(new Shaped.Usable(
                        new Value.Items(List.of(Value.text("tarva"), Value.text("brenn"), Value.text("halvorn")))));
        Value items = ((Shaped.Usable) split).value();
        assertThat(shape(new JoinList(" / "), items)).isEqualTo("tarva / brenn / halvorn");
        assertThat(shape(new AsJson(), items)).isEqualTo("[\"tarva\",\"brenn\",\"halvorn\"]");
        assertThat(shape(new UpperCase(), items)).isEqualTo("TARVA, BRENN, HALVORN");
    }

    /** RFC 8259, section 7: quotation mark, reverse solidus and control characters are escaped. */
    @Test
    void jsonTextIsEscaped() {
        assertThat(shape(new AsJson(), "a \"b\" \\ c\n")).isEqualTo("\"a \\\"b\\\" \\\\ c\\u000a\"");
        assertThat(shape(new AsJson(), Value.number(new BigDecimal("1.50")))).isEqualTo("1.5");
    }

    @Test
    void aMaskLeavesTheEnd() {
        assertThat(shape(new Mask(3), "+47 912 44 870")).isEqualTo("+•• ••• •• 870");
        assertThat(shape(new Mask(0), "Ada")).isEqualTo("•••");
    }

    @Test
    void aCrosswalkSaysWhatBecomesOfWhatItDoesNotKnow() {
        Stores stores = new Stores() {
            @Override
            public Optional<CrosswalkTable> crosswalk(long id) {
                return Optional.of(CrosswalkTable.of(
                        id,
                        "States",
                        3,
                        List.of(new CrosswalkTable.Pair("active", "current"), new CrosswalkTable.Pair("gone", ""))));
            }

            @Override
            public Optional<byte[]> key(String name) {
                return Optional.empty();
            }
        };
        for (Crosswalked.Otherwise otherwise : Crosswalked.Otherwise.values()) {
            Step step = new Crosswalked(1, otherwise, "other").ready(stores);
            assertThat(step.apply(Value.text(" active "), TestRows.empty()))
                    .isEqualTo(new Shaped.Usable(Value.text("current")));
            assertThat(step.apply(Value.text("gone"), TestRows.empty())).isEqualTo(new Shaped.Usable(Value.EMPTY));
            Shaped unknown = step.apply(Value.text("asleep"), TestRows.empty());
            assertThat(unknown)
                    .isEqualTo(
                            switch (otherwise) {
                                case UNUSABLE -> new Shaped.Unusable("\"asleep\" is not in the crosswalk States");
                                case AS_IT_IS -> new Shaped.Usable(Value.text("asleep"));
                                case EMPTY -> new Shaped.Usable(Value.EMPTY);
                                case DEFAULT -> new Shaped.Usable(Value.text("other"));
                            });
        }
    }

    /** RFC 4231, test case 2 of HMAC-SHA-256. */
    @Test
    void keyedHashesAreAsTheStandardSays() {
        Stores stores = new Stores() {
            @Override
            public Optional<CrosswalkTable> crosswalk(long id) {
                return Optional.empty();
            }

            @Override
            public Optional<byte[]> key(String name) {
                return name.equals("jefe") ? Optional.of("Jefe".getBytes()) : Optional.empty();
            }
        };
        assertThat(new KeyedHash("jefe")
                        .ready(stores)
                        .apply(Value.text("what do ya want for nothing?"), TestRows.empty()))
                .isEqualTo(new Shaped.Usable(
                        Value.text("5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843")));
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> new KeyedHash("lost").ready(stores))
                .hasMessage("There is no key lost.");
    }

    /** FIPS 180-4's one-block message, reached by tidying: what is hashed is the normalised value. */
    @Test
    void aHashIsOverTheTidiedValue() {
        Value normalised = ((Shaped.Usable) new LowerCase()
                        .apply(
                                ((Shaped.Usable) new Trim().apply(Value.text("  ABC\u00a0"), TestRows.empty())).value(),
                                TestRows.empty()))
                .value();
        assertThat(shape(new Sha256(), normalised))
                .isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    }
}
