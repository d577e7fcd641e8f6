package remitto.server.access;

import java.time.ZoneId;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** How people want things shown to them. */
@Component
class UserSettings {
    private final JdbcClient jdbc;

    UserSettings(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    enum Theme {
        /** As the system of whoever looks has it. */
        SYSTEM,
        LIGHT,
        DARK
    }

    /**
     * Zone and theme of a user.
     *
     * @param zone of the tz database, in which every time is shown; absent for that of the browser
     */
    record Settings(Optional<String> zone, Theme theme) {
        static final Settings NONE = new Settings(Optional.empty(), Theme.SYSTEM);

        /** @throws Problem if there is no such zone */
        Settings valid() {
            zone.filter(name -> !ZoneId.getAvailableZoneIds().contains(name)).ifPresent(name -> {
                throw Problem.invalid("There is no time zone of that name. Choose one such as Europe/Oslo.");
            });
            return this;
        }
    }

    Settings of(long user) {
        return jdbc.sql("select zone, theme from user_setting where user_id = ?")
                .param(user)
                .query((row, number) ->
                        new Settings(Rows.optionalText(row, "zone"), Theme.valueOf(row.getString("theme"))))
                .optional()
                .orElse(Settings.NONE);
    }

    void change(long user, Settings wanted) {
        Settings settings = wanted.valid();
        jdbc.sql("""
                        insert into user_setting (user_id, zone, theme) values (?, ?, ?)
                        on conflict (user_id) do update set zone = excluded.zone, theme = excluded.theme
                        """)
                .params(user, settings.zone().orElse(null), settings.theme().name())
                .update();
    }
}
