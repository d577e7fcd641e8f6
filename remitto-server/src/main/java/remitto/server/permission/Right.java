package remitto.server.permission;

/** What a role alone does not allow; given to a role, and to or from a single user. */
public enum Right {
    /** To see values of people's records; others see their kind and last characters. */
    SEE_PERSONAL_VALUES("see personal values"),
    /** To take personal values away in a file. */
    DOWNLOAD_PERSONAL_VALUES("download personal values"),
    /** To see values of sensitive columns, for a purpose that is stated first. */
    SEE_SENSITIVE_VALUES("see sensitive values");

    private final String words;

    Right(String words) {
        this.words = words;
    }

    /** The right as it stands after "may". */
    public String words() {
        return words;
    }

    /** The authority that stands for it in a signed-in user's authentication. */
    String authority() {
        return "RIGHT_" + name();
    }
}
