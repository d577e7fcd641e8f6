package remitto.server.consent;

import java.util.List;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.ColumnRole;
import remitto.server.people.EntityType;
import remitto.server.people.view.PersonColumns;

/** Answers as columns of what a dataset over people can carry: yes, no, or nothing where nobody asked. */
@Component
class ConsentColumns implements PersonColumns {
    private final JdbcClient jdbc;

    ConsentColumns(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public List<AddedColumn> columns(EntityType entityType) {
        if (entityType != EntityType.PERSON) {
            return List.of();
        }
        return jdbc.sql("""
                        select purpose, channel from consent_answer union select purpose, channel from consent_record
                        order by 1, 2
                        """)
                .query((row, number) -> new AddedColumn(
                        Consents.column(row.getString("purpose"), row.getString("channel")),
                        "(select lower(a.answer) from consent_answer a where a.person_id = p.id and a.purpose = "
                                + text(row.getString("purpose")) + " and a.channel = " + text(row.getString("channel"))
                                + ")",
                        ColumnRole.CONSENT,
                        Set.of()))
                .list();
    }

    private static String text(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
