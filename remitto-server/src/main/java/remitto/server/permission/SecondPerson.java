package remitto.server.permission;

import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.server.platform.Problem;

/** What guards against damage is loosened by two: whoever wrote a version, and an approver who puts it in service. */
@Component
public class SecondPerson {
    private final CurrentUser user;

    SecondPerson(CurrentUser user) {
        this.user = user;
    }

    /**
     * @param what is loosened, in a sentence
     * @param author who saved the version
     * @param who puts it in service
     * @throws Problem if that is not an approver, or the author
     */
    public void require(String what, String author, String who) {
        if (!user.isAtLeast(Role.APPROVER)) {
            throw new Problem(
                    HttpStatus.FORBIDDEN,
                    what + " An approver puts it in service.",
                    List.of(new Problem.Detail(Problem.APPROVER, "Ask an approver.")));
        }
        if (author.equals(who)) {
            throw new Problem(
                    HttpStatus.CONFLICT,
                    what + " You saved it, so another approver puts it in service.",
                    List.of(new Problem.Detail(Problem.APPROVER, "Ask another approver.")));
        }
    }
}
