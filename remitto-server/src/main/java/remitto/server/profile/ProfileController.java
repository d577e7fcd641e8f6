package remitto.server.profile;

import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.server.platform.ActorName;
import remitto.server.platform.VersionNote;
import remitto.server.platform.VersionRequest;

@RestController
@RequestMapping("/api/profiles")
class ProfileController {
    private final Profiles profiles;
    private final ProfileReader reader;
    private final ProfileKeeping keeping;

    ProfileController(Profiles profiles, ProfileReader reader, ProfileKeeping keeping) {
        this.profiles = profiles;
        this.reader = reader;
        this.keeping = keeping;
    }

    /**
     * A way to sign in that a person can choose.
     *
     * @param delegated somebody signs in at the tool itself
     */
    record SignInWay(String name, String title, boolean delegated) {}

    /**
     * A profile in the list of all.
     *
     * @param limits in words, each with its unit; {@code connection} and the ways are of the version in service
     */
    record ProfileView(
            String profile,
            String title,
            int latestVersion,
            Optional<Integer> liveVersion,
            @ActorName String author,
            Instant savedAt,
            long destinations,
            String limits,
            List<Profile.Setting> connection,
            List<SignInWay> ways) {}

    /** The text of a profile. */
    record ProfileText(String text) {}

    /** A version of a profile to be saved. */
    record ProfileDraft(int basedOn, String text, String note) {}

    /**
     * What is wrong with the text of a profile.
     *
     * @param profile the name it gives itself; blank when it cannot be read
     * @param calls that it describes, in lower case
     */
    record ProfileChecked(String profile, String limits, List<String> calls, List<ProfileReader.TextFault> faults) {}

    /** All profiles with the destinations that use them. */
    @GetMapping
    List<ProfileView> profiles() {
        return profiles.all().stream().map(this::view).toList();
    }

    /** The JSON Schema (draft 2020-12) that profiles keep. */
    @GetMapping(path = "/schema", produces = "application/schema+json")
    String profileSchema() {
        return ProfileReader.resource("profile.schema.json");
    }

    /** A commented profile of a made-up tool, to begin with. */
    @GetMapping("/example")
    ProfileText exampleProfile() {
        return new ProfileText(ProfileReader.resource("example.yaml"));
    }

    /** A profile with its text in service and its latest one. */
    @GetMapping("/{profile}")
    Profiles.SavedProfile profile(@PathVariable String profile) {
        return profiles.get(profile);
    }

    /** The versions of a profile, the newest first. */
    @GetMapping("/{profile}/versions")
    List<VersionNote> profileVersions(@PathVariable String profile) {
        return profiles.versions(profile);
    }

    /** The text of a version of a profile. */
    @GetMapping("/{profile}/versions/{number}")
    ProfileText profileVersion(@PathVariable String profile, @PathVariable int number) {
        return new ProfileText(profiles.text(profile, number));
    }

    /** Destinations and their routes that another version in service touches. */
    @GetMapping("/{profile}/touched")
    List<Profiles.TouchedDestination> touchedDestinations(@PathVariable String profile) {
        return profiles.touched(profile);
    }

    /** Everything that is wrong with a text, with its lines. */
    @PostMapping("/check")
    ProfileChecked checkProfile(@RequestBody ProfileText wanted) {
        try {
            Profile read = reader.read(wanted.text());
            return new ProfileChecked(read.profile(), limits(read), ProfileCalls.of(read), List.of());
        } catch (ProfileReader.ProfileFault fault) {
            return new ProfileChecked("", "", List.of(), fault.faults());
        }
    }

    /** Saves a new profile from its text. */
    @PostMapping
    Profiles.SavedProfile addProfile(@RequestBody ProfileDraft draft, Principal who) {
        return profiles.get(keeping.add(draft.text(), who.getName(), draft.note()));
    }

    /** Saves a version of a profile. 409 when somebody saved another since the one it is based on. */
    @PostMapping("/{profile}/versions")
    Profiles.SavedProfile saveProfile(@PathVariable String profile, @RequestBody ProfileDraft draft, Principal who) {
        keeping.save(profile, draft.basedOn(), draft.text(), who.getName(), draft.note());
        return profiles.get(profile);
    }

    /** Puts a version of a profile in service for every destination that uses it. Waiting manifests of these are prepared again. */
    @PostMapping("/{profile}/in-service")
    Profiles.SavedProfile putProfileInService(
            @PathVariable String profile, @RequestBody VersionRequest wanted, Principal who) {
        keeping.putInService(profile, wanted.version(), who.getName());
        return profiles.get(profile);
    }

    private ProfileView view(Profiles.SavedProfile saved) {
        Profile live = saved.liveVersion()
                .filter(number -> number != saved.latestVersion())
                .map(number -> profiles.version(saved.profile(), number))
                .orElseGet(() -> reader.read(saved.text()));
        return new ProfileView(
                saved.profile(),
                live.title(),
                saved.latestVersion(),
                saved.liveVersion(),
                saved.author(),
                saved.savedAt(),
                saved.destinations(),
                limits(live),
                live.connection(),
                live.authentication().stream()
                        .map(way -> new SignInWay(
                                way.name().orElse(""),
                                way.title().orElse(""),
                                way.kind() == Profile.Authentication.Kind.DELEGATED))
                        .toList());
    }

    private static String limits(Profile profile) {
        Profile.Limits limits = profile.limits();
        if (profile.takesFiles()) {
            return "one file for each run";
        }
        return counted(limits.calls(), "call") + " in " + limits.periodSeconds() + " s (" + rate(limits)
                + " a second), "
                + limits.concurrency() + " at a time, " + counted(limits.recordsPerCall(), "record") + " and "
                + counted(limits.bytesPerCall(), "byte") + " a call";
    }

    private static String counted(int number, String what) {
        return String.format(Locale.ROOT, "%,d %s%s", number, what, number == 1 ? "" : "s");
    }

    private static String rate(Profile.Limits limits) {
        return new java.math.BigDecimal(limits.calls())
                .divide(new java.math.BigDecimal(limits.periodSeconds()), 2, java.math.RoundingMode.HALF_UP)
                .stripTrailingZeros()
                .toPlainString();
    }
}
