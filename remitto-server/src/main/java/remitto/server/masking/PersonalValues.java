package remitto.server.masking;

import org.springframework.stereotype.Component;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.secret.Secrets;

/** What the current user is shown of a personal value. */
@Component
public class PersonalValues {
    private final CurrentUser user;
    private final Masker masker;

    PersonalValues(CurrentUser user, Secrets secrets) {
        this.user = user;
        this.masker = new Masker(secrets.derived("masks of personal values"));
    }

    public boolean isShown() {
        return user.may(Right.SEE_PERSONAL_VALUES);
    }

    /** Whether values of sensitive columns are shown too. */
    public boolean isSensitiveShown() {
        return user.maySeeSensitive();
    }

    /** The value, or what stands in its place. */
    public String shown(String value) {
        return isShown() ? value : masker.mask(value);
    }

    /** The same for a value of a sensitive column. */
    public String sensitive(String value) {
        return isSensitiveShown() ? value : masker.mask(value);
    }

    String masked(String value) {
        return masker.mask(value);
    }
}
