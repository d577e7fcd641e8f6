package remitto.server.permission;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Names of those who act. They are kept by the id of their account; what is no id, such as the timetable, is its own name. */
@Component
public class ActorNames {
    private static final Pattern ID = Pattern.compile("\\d{1,18}");

    private final JdbcClient jdbc;
    /** A changed name shows within seconds, in every process. */
    private final Cache<String, String> names = Caffeine.newBuilder()
            .maximumSize(10_000)
            .expireAfterWrite(Duration.ofSeconds(5))
            .build();

    ActorNames(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The name to show for an actor. */
    public String of(String actor) {
        return isUser(actor) ? names.get(actor, this::read) : actor;
    }

    /** A name changed in this process, which shows it at once. */
    public void changed(long id) {
        names.invalidate(Long.toString(id));
    }

    /** Whether an actor is a user, rather than something such as the timetable. */
    public static boolean isUser(String actor) {
        return ID.matcher(actor).matches();
    }

    private String read(String id) {
        return jdbc.sql("select name from app_user where id = ?")
                .param(Long.parseLong(id))
                .query(String.class)
                .optional()
                .orElse("A former user");
    }
}
