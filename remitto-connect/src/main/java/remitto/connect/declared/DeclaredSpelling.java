package remitto.connect.declared;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import remitto.connect.database.Lexis;
import remitto.connect.database.Spelling;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.TableText;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** Spells by the templates of a declaration. */
final class DeclaredSpelling implements Spelling {
    private final Declaration.Words words;
    private final Lexis lexis;
    private final DateTimeFormatter moment;

    DeclaredSpelling(Declaration.Words words) {
        this.words = words;
        this.lexis = Lexis.standard(words.nameQuote());
        this.moment = DateTimeFormatter.ofPattern(words.moment().pattern()).withZone(ZoneOffset.UTC);
    }

    @Override
    public String query(String text) {
        return lexis.query(text);
    }

    @Override
    public String table(SourceQuery.OfTable table) {
        return TableText.select(table, this::quoted, lexis::condition);
    }

    @Override
    public String quoted(String name) {
        String quote = words.nameQuote();
        return quote + name.replace(quote, quote + quote) + quote;
    }

    private static String filled(String template, String expression) {
        return template.replace("{}", expression);
    }

    @Override
    public String asText(String expression) {
        return filled(words.text(), expression);
    }

    @Override
    public String exact(String column) {
        return filled(words.exact(), column);
    }

    @Override
    public String place(ColumnType type) {
        return words.place(type);
    }

    @Override
    public String argument(ColumnType type, String text) {
        return type == ColumnType.TIMESTAMP && type.read(text) instanceof Value.Moment at
                ? moment.format(at.instant())
                : text;
    }

    @Override
    public String moment(Instant at) {
        return filled(words.moment().text(), moment.format(at));
    }

    @Override
    public String contains(String column) {
        return filled(words.contains(), column);
    }

    @Override
    public String pattern(String text) {
        return "%" + text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    @Override
    public String blank(String column) {
        return filled(words.blank(), column);
    }

    @Override
    public String order(String column, boolean newestFirst) {
        return filled(newestFirst ? words.order().newestFirst() : words.order().oldestFirst(), column);
    }

    @Override
    public String atMost(String select, int rows) {
        return filled(words.atMost(), select).replace("{rows}", Integer.toString(rows));
    }
}
