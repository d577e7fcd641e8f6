package remitto.server.journal;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import org.springframework.stereotype.Component;
import remitto.server.permission.CurrentUser;

/** Writes down who looked at whom. The same look within a minute is one: pages ask again by themselves. */
@Component
public class Looks {
    private static final Duration ONE_LOOK = Duration.ofMinutes(1);

    private final CurrentUser user;
    private final Journal journal;
    private final Cache<String, Boolean> lately =
            Caffeine.newBuilder().maximumSize(10_000).expireAfterWrite(ONE_LOOK).build();

    Looks(CurrentUser user, Journal journal) {
        this.user = user;
        this.journal = journal;
    }

    /** @param action as it stands in the journal, such as "looked at person" */
    public void at(String action, Journal.Subject subject) {
        String who = user.id().orElse("unknown");
        String detail = user.maySeeSensitive() ? "with sensitive values" : "";
        String look =
                String.join("|", who, action, subject.kind(), Long.toString(subject.id()), subject.name(), detail);
        lately.get(look, first -> {
            journal.write(who, action, subject, detail);
            return true;
        });
    }
}
