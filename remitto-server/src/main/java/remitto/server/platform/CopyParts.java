package remitto.server.platform;

import org.springframework.jdbc.core.JdbcTemplate;

/** Rows that go over to PostgreSQL in parts, so that many of them take little memory. Used by one thread. */
public final class CopyParts {
    private static final int PART = 10_000;
    private static final int CHARACTERS = 4_000_000;

    private final JdbcTemplate template;
    private final String into;
    private CopyText copy = new CopyText();
    private int rows;

    /** @param into table and columns as {@code copy} takes them */
    public CopyParts(JdbcTemplate template, String into) {
        this.template = template;
        this.into = into;
    }

    /** Where the next row is written. */
    public CopyText row() {
        if (rows++ % PART == PART - 1 || copy.length() > CHARACTERS) {
            end();
        }
        return copy;
    }

    public void end() {
        copy.load(template, into);
        copy = new CopyText();
    }
}
