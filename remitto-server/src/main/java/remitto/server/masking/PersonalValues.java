package remitto.server.masking;

import org.springframework.stereotype.Component;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Right;
import remitto.server.platform.Personal;
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

    /** What is shown of a value of a sensitive column to whoever may see other values; those who may not have it masked like any. */
    public String sensitive(String value) {
        return isSensitiveShown() || !isShown() ? value : masker.mask(value);
    }

    String masked(String value, Personal.Part part) {
        return switch (part) {
            case WHOLE -> masker.mask(value);
            case IN_TEXT -> masker.maskIn(value);
            case KEY -> masker.maskKey(value);
        };
    }
}
