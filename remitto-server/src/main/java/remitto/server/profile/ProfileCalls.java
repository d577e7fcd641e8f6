package remitto.server.profile;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileBench;

/** Which calls a profile describes. */
final class ProfileCalls {
    private ProfileCalls() {}

    static List<String> of(Profile profile) {
        List<String> calls = new ArrayList<>();
        for (ProfileBench.Call call : ProfileBench.Call.values()) {
            if (described(profile, call)) {
                calls.add(call.name().toLowerCase(Locale.ROOT));
            }
        }
        return calls;
    }

    private static boolean described(Profile profile, ProfileBench.Call call) {
        Optional<?> part =
                switch (call) {
                    case CHECK -> profile.check();
                    case ACCOUNTS -> profile.accounts();
                    case FIND -> profile.find();
                    case LIST -> profile.list();
                    case UPDATE -> profile.update();
                    case REMOVE -> profile.remove();
                    case OBJECTS, FIELDS, ADD -> Optional.of(profile);
                };
        return part.isPresent();
    }
}
