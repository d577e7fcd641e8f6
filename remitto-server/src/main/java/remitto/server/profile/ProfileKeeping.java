package remitto.server.profile;

import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

/** Saving profiles and putting them in service: checked and written in the journal, by whatever way somebody asks for it. */
@Component
class ProfileKeeping {
    private final Profiles profiles;
    private final ProfileReader reader;
    private final Journal journal;

    ProfileKeeping(Profiles profiles, ProfileReader reader, Journal journal) {
        this.profiles = profiles;
        this.reader = reader;
        this.journal = journal;
    }

    /** @return the name it gives itself */
    String add(String text, String who, String note) {
        Profile profile = read(text);
        profiles.add(profile, text, who, note);
        note(who, "saved profile", profile.title(), profile.profile() + ", version 1");
        return profile.profile();
    }

    /** @throws Problem if somebody saved another version since {@code basedOn} */
    void save(String profile, int basedOn, String text, String who, String note) {
        Profile read = read(text);
        if (!read.profile().equals(profile)) {
            throw Problem.invalid("This text calls itself " + read.profile() + ", not " + profile
                    + "; a profile keeps its name. Make it a new profile instead.");
        }
        int version = profiles.save(read, basedOn, text, who, note);
        note(who, "saved profile", read.title(), profile + ", version " + version);
    }

    void putInService(String profile, int version, String who) {
        Profile read = profiles.version(profile, version);
        String touched = profiles.touched(profile).stream()
                .map(Profiles.TouchedDestination::name)
                .collect(Collectors.joining(", "));
        profiles.putInService(profile, version);
        note(
                who,
                "put profile in service",
                read.title(),
                "version " + version + (touched.isEmpty() ? "" : "; destinations: " + touched));
    }

    private void note(String who, String what, String title, String detail) {
        journal.write(who, what, new Journal.Subject("profile", 0, title), detail);
    }

    /** @throws Problem with the line of everything that is wrong */
    Profile read(String text) {
        try {
            return reader.read(text);
        } catch (ProfileReader.ProfileFault fault) {
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This is not a profile yet: " + fault.faults().get(0)
                            + (fault.faults().size() > 1
                                    ? " And " + (fault.faults().size() - 1) + " more."
                                    : ""),
                    fault.faults().stream()
                            .map(one -> new Problem.Detail("line " + one.line(), one.message()))
                            .toList());
        }
    }
}
