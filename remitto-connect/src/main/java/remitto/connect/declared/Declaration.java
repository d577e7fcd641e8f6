package remitto.connect.declared;

import com.fasterxml.jackson.annotation.JsonAlias;
import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.connect.source.SourceProblem;
import remitto.core.dataset.ColumnType;

/**
 * A dialect as its file says it. Whatever is not said is as standard SQL has it (ISO/IEC 9075-2).
 *
 * @param name as addresses of sources say it
 * @param title what the database is called
 * @param port that its servers usually listen on
 */
record Declaration(
        String name, String title, Integer port, Driver driver, Session session, Words spelling, Meanings meanings) {
    Declaration {
        required("name", name);
        required("port", port);
        if (!name.matches("[a-z][a-z0-9-]{0,39}")) {
            throw new IllegalArgumentException("name has small letters, digits and dashes, and begins with a letter");
        }
        if (port < 1 || port > 65_535) {
            throw new IllegalArgumentException("port is a number from 1 to 65535");
        }
        required("driver", driver);
        title = title == null || title.isBlank() ? name : title;
        session = session == null ? new Session(null, null) : session;
        spelling = spelling == null ? new Words(null, null, null, null, null, null, null, null, null) : spelling;
        meanings = meanings == null ? new Meanings(null, null) : meanings;
    }

    private static void required(String what, @Nullable Object value) {
        if (value == null) {
            throw new IllegalArgumentException(what + " is missing");
        }
    }

    /**
     * @param driverClass of the JDBC driver
     * @param jars files that it is in, in the folder of the declaration
     * @param address by what a connection asks of TLS ({@code off}, {@code required}, {@code verified}): the driver's address, with
     *     {@code {host}}, {@code {port}} and {@code {database}} where these go
     * @param settings of the driver, beside user and password
     */
    record Driver(
            @JsonProperty("class") String driverClass,
            List<String> jars,
            Map<String, String> address,
            Map<String, String> settings) {
        Driver {
            required("driver.class", driverClass);
            required("driver.address", address);
            jars = jars == null ? List.of() : List.copyOf(jars);
            settings = settings == null ? Map.of() : Map.copyOf(settings);
            address = Map.copyOf(address);
            if (!address.containsKey("off") && !address.containsKey("required") && !address.containsKey("verified")) {
                throw new IllegalArgumentException("driver.address says one of off, required and verified");
            }
        }
    }

    /**
     * @param begin statements at the beginning of every reading
     * @param forget statements that make a session as good as new; absent where a connection serves one reading
     */
    record Session(List<String> begin, Optional<List<String>> forget) {
        Session {
            begin = begin == null ? List.of() : List.copyOf(begin);
            forget = forget == null ? Optional.empty() : forget;
        }
    }

    /** Templates, in which {@code {}} is the expression that they are about. */
    record Words(
            @JsonAlias("name_quote") String nameQuote,
            String text,
            String exact,
            Map<String, String> places,
            Moment moment,
            String contains,
            String blank,
            Order order,
            @JsonAlias("at_most") String atMost) {
        Words {
            nameQuote = nameQuote == null ? "\"" : nameQuote;
            text = text == null ? "cast({} as varchar)" : text;
            exact = exact == null ? "{}" : exact;
            places = places == null ? Map.of() : Map.copyOf(places);
            moment = moment == null ? new Moment(null, null) : moment;
            contains = contains == null ? "lower(cast({} as varchar)) like lower(?) escape '\\'" : contains;
            blank = blank == null ? "coalesce(trim(cast({} as varchar)), '') = ''" : blank;
            order = order == null ? new Order(null, null) : order;
            atMost = atMost == null ? "{} fetch first {rows} rows only" : atMost;
            if (nameQuote.length() != 1) {
                throw new IllegalArgumentException("spelling.name_quote is one character");
            }
        }

        String place(ColumnType type) {
            String usual =
                    switch (type) {
                        case TEXT -> "?";
                        case INTEGER -> "cast(? as bigint)";
                        case DECIMAL -> "cast(? as decimal(38, 15))";
                        case BOOLEAN -> "cast(? as boolean)";
                        case DATE -> "cast(? as date)";
                        case TIMESTAMP -> "cast(? as timestamp with time zone)";
                    };
            return places.getOrDefault(type.name().toLowerCase(Locale.ROOT), usual);
        }
    }

    /**
     * @param text with {@code {}} where the moment goes
     * @param pattern of the moment, in UTC, as {@link java.time.format.DateTimeFormatter} reads patterns
     */
    record Moment(String text, String pattern) {
        Moment {
            text = text == null ? "timestamp with time zone '{}'" : text;
            pattern = pattern == null ? "yyyy-MM-dd HH:mm:ss.SSSSSSxxx" : pattern;
        }
    }

    record Order(
            @JsonAlias("oldest_first") String oldestFirst,
            @JsonAlias("newest_first") String newestFirst) {
        Order {
            oldestFirst = oldestFirst == null ? "{} nulls last" : oldestFirst;
            newestFirst = newestFirst == null ? "{} desc nulls last" : newestFirst;
        }
    }

    /**
     * @param types of columns, by the name that the database gives them, where the kind that the driver tells is not enough
     * @param problems by the first characters of SQLSTATE
     */
    record Meanings(Map<String, ColumnType> types, Map<String, SourceProblem.Kind> problems) {
        Meanings {
            types = types == null ? Map.of() : Map.copyOf(types);
            problems = problems == null ? Map.of() : Map.copyOf(problems);
        }
    }
}
