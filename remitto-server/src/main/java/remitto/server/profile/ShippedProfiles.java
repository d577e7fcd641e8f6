package remitto.server.profile;

import java.util.List;
import java.util.stream.Stream;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import remitto.connect.profile.ProfileReader;

/** The profiles that ship; taken in before the first call when they changed. */
@Component
class ShippedProfiles implements SmartInitializingSingleton {
    static final String AUTHOR = "Remitto";
    private static final List<String> GENERIC =
            List.of("webhook.yaml", "database-table.yaml", "file-drop.yaml", "file-folder.yaml");
    private static final List<String> STAND_INS = List.of(
            "purser-crm.yaml", "lamplight-ads.yaml", "foghorn-chat.yaml", "gangway-support.yaml", "postbag-mail.yaml");

    private final Profiles profiles;
    private final boolean standIns;

    /** @param standIns whether the profiles of the stand-ins are wanted, which only the demo calls */
    ShippedProfiles(Profiles profiles, @Value("${remitto.stand-ins}") boolean standIns) {
        this.profiles = profiles;
        this.standIns = standIns;
    }

    @Override
    public void afterSingletonsInstantiated() {
        Stream.concat(GENERIC.stream(), standIns ? STAND_INS.stream() : Stream.empty())
                .map(ProfileReader::resource)
                .forEach(profiles::takeIn);
    }
}
