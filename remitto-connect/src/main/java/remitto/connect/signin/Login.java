package remitto.connect.signin;

import java.util.Map;

/**
 * With what a destination is signed in to.
 *
 * @param way name of one of the ways a profile offers; blank for its first
 * @param settings values of the profile's connection settings, secrets among them
 * @param grant what a person allowed by signing in at the tool
 */
public record Login(String way, Map<String, String> settings, Grant grant) {
    public Login {
        settings = Map.copyOf(settings);
    }

    /** By the first way a profile offers. */
    public static Login with(Map<String, String> settings) {
        return new Login("", settings, Grant.NONE);
    }

    /** A connection setting; blank when nobody filled it in. */
    public String setting(String name) {
        return settings.getOrDefault(name, "");
    }

    @Override
    public String toString() {
        return "Login[" + way + "]";
    }
}
