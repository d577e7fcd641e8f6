package remitto.server.profile;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.server.archive.Archivable;
import remitto.server.archive.Archive;
import remitto.server.definition.DefinitionKind;
import remitto.server.definition.DefinitionPlan;
import remitto.server.platform.Problem;

/** Profiles as files: each is the text that somebody wrote. Those that ship with a release, and nobody changed, have none. */
@Component
class ProfileFiles implements DefinitionKind<ProfileFiles.ProfileFile> {
    private final Profiles profiles;
    private final ProfileKeeping keeping;
    private final Archive archive;

    ProfileFiles(Profiles profiles, ProfileKeeping keeping, Archive archive) {
        this.profiles = profiles;
        this.keeping = keeping;
        this.archive = archive;
    }

    /** A profile, by its text. */
    record ProfileFile(String text) {}

    @Override
    public Form<ProfileFile> form() {
        return new Form<>("profile", "profiles", ProfileFile.class, 0, true);
    }

    @Override
    public boolean isVerbatim() {
        return true;
    }

    @Override
    public List<Kept<ProfileFile>> all() {
        return profiles.all().stream()
                .filter(one -> !one.author().equals(ShippedProfiles.AUTHOR))
                .map(one -> new Kept<>(
                        one.profile(),
                        one.profile(),
                        new ProfileFile(one.text()),
                        one.liveVersion().map(live -> new ProfileFile(profiles.text(one.profile(), live)))))
                .toList();
    }

    /** One that ships is changed by adding a file of its name. */
    @Override
    public String add(Change<ProfileFile> change) {
        String text = change.content().text();
        String name = keeping.read(text).profile();
        if (!name.equals(change.slug())) {
            throw Problem.invalid("The file of profile " + name + " is called " + name + ".yaml.");
        }
        Optional<Profiles.SavedProfile> shipped = profiles.all().stream()
                .filter(one -> one.profile().equals(name))
                .findFirst();
        if (shipped.isPresent()) {
            keeping.save(name, shipped.get().latestVersion(), text, change.who(), change.note());
            return name;
        }
        return keeping.add(text, change.who(), change.note());
    }

    @Override
    public void change(String id, Change<ProfileFile> change) {
        keeping.save(id, profiles.get(id).latestVersion(), change.content().text(), change.who(), change.note());
    }

    @Override
    public Optional<DefinitionPlan.EffectQuestion> effect(String id, ProfileFile content) {
        return Optional.of(new DefinitionPlan.EffectQuestion("/api/profiles/" + id + "/what-if", content));
    }

    @Override
    public void putInService(String id, Change<ProfileFile> change) {
        Profiles.SavedProfile now = profiles.get(id);
        if (!now.liveVersion().filter(live -> live == now.latestVersion()).isPresent()) {
            keeping.putInService(id, now.latestVersion(), change.who());
        }
    }

    @Override
    public void remove(String id, String who) {
        archive.archive(Archivable.PROFILE, id, who);
    }
}
