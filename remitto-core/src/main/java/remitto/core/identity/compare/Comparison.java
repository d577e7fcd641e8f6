package remitto.core.identity.compare;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Set;
import org.apache.commons.codec.language.Soundex;
import org.apache.commons.text.similarity.JaroWinklerSimilarity;

/** How two normalised values of an attribute are compared. Both are there; what is missing is not compared. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Comparison.Same.class, name = "same"),
    @JsonSubTypes.Type(value = Comparison.Alike.class, name = "alike"),
    @JsonSubTypes.Type(value = Comparison.SoundsAlike.class, name = "sounds-alike"),
    @JsonSubTypes.Type(value = Comparison.Slips.class, name = "slips"),
    @JsonSubTypes.Type(value = Comparison.Begins.class, name = "begins"),
    @JsonSubTypes.Type(value = Comparison.Initial.class, name = "initial"),
    @JsonSubTypes.Type(value = Comparison.SharesWord.class, name = "shares-word"),
    @JsonSubTypes.Type(value = Comparison.SameLocalPart.class, name = "same-local-part"),
    @JsonSubTypes.Type(value = Comparison.SameTail.class, name = "same-tail"),
    @JsonSubTypes.Type(value = Comparison.Near.class, name = "near"),
    @JsonSubTypes.Type(value = Comparison.NearDays.class, name = "near-days"),
    @JsonSubTypes.Type(value = NameSlip.class, name = "name-slip"),
    @JsonSubTypes.Type(value = FirstWord.class, name = "first-word"),
    @JsonSubTypes.Type(value = SameNumberAlike.class, name = "same-number-alike"),
    @JsonSubTypes.Type(value = DayAndMonthSwapped.class, name = "day-and-month-swapped"),
    @JsonSubTypes.Type(value = TwoDateParts.class, name = "two-date-parts")
})
public sealed interface Comparison
        permits Comparison.Same,
                Comparison.Alike,
                Comparison.SoundsAlike,
                Comparison.Slips,
                Comparison.Begins,
                Comparison.Initial,
                Comparison.SharesWord,
                Comparison.SameLocalPart,
                Comparison.SameTail,
                Comparison.Near,
                Comparison.NearDays,
                NameSlip,
                FirstWord,
                SameNumberAlike,
                DayAndMonthSwapped,
                TwoDateParts {
    boolean holds(String one, String other);

    /** In words, after the attribute's name. */
    String words();

    /** The same after tidying. */
    record Same() implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            return one.equals(other);
        }

        @Override
        public String words() {
            return "the same";
        }
    }

    /**
     * Alike by Jaro and Winkler.
     *
     * @param least similarity from 0 to 1
     */
    record Alike(double least) implements Comparison {
        private static final JaroWinklerSimilarity SIMILARITY = new JaroWinklerSimilarity();

        @Override
        public boolean holds(String one, String other) {
            return SIMILARITY.apply(one, other) >= least;
        }

        @Override
        public String words() {
            return "similar";
        }
    }

    /** The same American Soundex code; for names in ASCII. */
    record SoundsAlike() implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            return Soundex.US_ENGLISH.encode(one).equals(Soundex.US_ENGLISH.encode(other));
        }

        @Override
        public String words() {
            return "similar in sound";
        }
    }

    /** Typed with at most so many slips: a letter wrong, missing, too many, or two beside each other swapped. */
    record Slips(int most) implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            return SlipDistance.atMost(one, other, most);
        }

        @Override
        public String words() {
            return most == 1 ? "one typo apart" : "up to " + most + " typos apart";
        }
    }

    /** The same in the first characters, such as the year of a date. */
    record Begins(int characters) implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            return one.length() >= characters && one.regionMatches(0, other, 0, characters);
        }

        @Override
        public String words() {
            return "the same at the beginning";
        }
    }

    /** One is, in its first word, the initial of the other. */
    record Initial() implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            return !one.isEmpty()
                    && !other.isEmpty()
                    && one.charAt(0) == other.charAt(0)
                    && (isInitial(one) || isInitial(other));
        }

        private static boolean isInitial(String given) {
            return given.length() == 1 || given.charAt(1) == ' ';
        }

        @Override
        public String words() {
            return "the initial of the other";
        }
    }

    /** Lists share a value, or texts a word. */
    record SharesWord() implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            Set<String> words = new HashSet<>(Arrays.asList(one.split("[ |]")));
            return Arrays.stream(other.split("[ |]")).anyMatch(words::contains);
        }

        @Override
        public String words() {
            return "the same in one word";
        }
    }

    /** E-mail addresses of one name at two domains. */
    record SameLocalPart() implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            int at = one.indexOf('@');
            return at > 2 && other.length() > at && one.regionMatches(0, other, 0, at + 1);
        }

        @Override
        public String words() {
            return "the same before the at sign";
        }
    }

    /**
     * E-mail addresses whose names end the same, as k.holm41 and kari.holm41 do.
     *
     * @param characters that must be the same
     */
    record SameTail(int characters) implements Comparison {
        /** Of an address, the last characters of the part before the at sign; blank when that is shorter. */
        public static String of(String email, int characters) {
            int at = email.indexOf('@');
            return at < characters ? "" : email.substring(at - characters, at);
        }

        @Override
        public boolean holds(String one, String other) {
            String tail = of(one, characters);
            return !tail.isEmpty() && tail.equals(of(other, characters));
        }

        @Override
        public String words() {
            return "the same at the end, before the at sign";
        }
    }

    /**
     * Numbers that are close.
     *
     * @param most difference
     */
    record Near(double most) implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            try {
                return Math.abs(Double.parseDouble(one) - Double.parseDouble(other)) <= most;
            } catch (NumberFormatException e) {
                return false;
            }
        }

        @Override
        public String words() {
            return "at most " + (most == Math.rint(most) ? Long.toString((long) most) : Double.toString(most))
                    + " apart";
        }
    }

    /**
     * Dates as they are normalised that are close.
     *
     * @param most days between them
     */
    record NearDays(int most) implements Comparison {
        @Override
        public boolean holds(String one, String other) {
            try {
                return Math.abs(ChronoUnit.DAYS.between(day(one), day(other))) <= most;
            } catch (DateTimeException e) {
                return false;
            }
        }

        private static LocalDate day(String text) {
            return LocalDate.parse(text, DateTimeFormatter.BASIC_ISO_DATE);
        }

        @Override
        public String words() {
            return "at most " + most + (most == 1 ? " day apart" : " days apart");
        }
    }
}
