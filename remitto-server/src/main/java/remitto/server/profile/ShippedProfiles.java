package remitto.server.profile;

import java.util.List;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.stereotype.Component;
import remitto.connect.profile.ProfileReader;

/** The profiles that ship; taken in before the first call when they changed. */
@Component
class ShippedProfiles implements SmartInitializingSingleton {
    static final String AUTHOR = "Remitto";
    private static final List<String> FILES = List.of(
            "purser-crm.yaml",
            "lamplight-ads.yaml",
            "foghorn-chat.yaml",
            "webhook.yaml",
            "gangway-support.yaml",
            "postbag-mail.yaml",
            "database-table.yaml",
            "file-drop.yaml",
            "file-folder.yaml");

    private final Profiles profiles;

    ShippedProfiles(Profiles profiles) {
        this.profiles = profiles;
    }

    @Override
    public void afterSingletonsInstantiated() {
        FILES.stream().map(ProfileReader::resource).forEach(profiles::takeIn);
    }
}
