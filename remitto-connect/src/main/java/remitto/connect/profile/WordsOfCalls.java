package remitto.connect.profile;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.connect.profile.ProfileReader.TextFault;
import remitto.connect.yaml.YamlPlaces;
import tools.jackson.databind.JsonNode;

/** What a schema cannot say of a profile's calls: whether what they name is there. */
final class WordsOfCalls {
    private final YamlPlaces places;
    private final Profile.Results results;
    private final List<TextFault> faults = new ArrayList<>();

    private WordsOfCalls(YamlPlaces places, Profile.Results results) {
        this.places = places;
        this.results = results;
    }

    static List<TextFault> faults(JsonNode tree, Profile profile, YamlPlaces places) {
        WordsOfCalls words = new WordsOfCalls(places, profile.results());
        Placeholders.unknown(tree).forEach(one -> words.add(one.path(), one.message()));
        words.write("add", profile.add());
        profile.update().ifPresent(how -> words.write("update", how));
        profile.remove().ifPresent(how -> words.write("remove", how));
        words.recordPage(profile);
        words.outcome(profile.results());
        return words.faults;
    }

    private void add(List<String> path, String message) {
        faults.add(new TextFault("/" + String.join("/", path), places.line(path), message));
    }

    private void write(String name, Profile.Write how) {
        List<String> inBody =
                how.body().map(body -> List.copyOf(Placeholders.used(body))).orElse(List.of());
        boolean several = inBody.contains("records");
        if ((several || inBody.contains("record")) && how.record().isEmpty()) {
            add(
                    List.of(name, "body"),
                    "The body names {record" + (several ? "s" : "") + "}. Say under record what a record looks like.");
        }
        if (several && how.ofOneRecord()) {
            add(
                    List.of(name),
                    "The body holds several records, and the call names one of them: a call is about one record or about many.");
        }
        if (several && results.items().isPresent() && results.outcome().isEmpty()) {
            add(
                    List.of("results"),
                    "A call holds several records. Say under outcome and accepted which of them were taken.");
        }
        how.body().ifPresent(body -> form(name, how, body));
    }

    private void form(String name, Profile.Write how, JsonNode body) {
        boolean fits =
                switch (how.bodyAs()) {
                    case JSON -> true;
                    case TEXT -> body.isString();
                    case FORM ->
                        body.isString() && body.asString().equals("{fields}")
                                || body.isObject()
                                        && body.properties().stream()
                                                .map(Map.Entry::getValue)
                                                .allMatch(JsonNode::isValueNode);
                };
        if (!fits) {
            add(
                    List.of(name, "body"),
                    how.bodyAs() == Profile.BodyForm.TEXT
                            ? "A body in the form text is one text."
                            : "A body in the form form is names with one value each, or {fields}.");
        }
    }

    private void outcome(Profile.Results said) {
        if (said.outcome().isPresent() != said.accepted().isPresent()
                || said.movedOn().isPresent() && said.outcome().isEmpty()) {
            add(
                    List.of("results"),
                    "outcome is the place of a word, accepted and moved_on say which words mean what: name outcome and accepted together.");
        }
    }

    /** Whoever may look at a record sees its address. */
    private void recordPage(Profile profile) {
        for (Profile.Setting setting : profile.connection()) {
            Optional<String> page =
                    profile.recordPage().filter(text -> text.contains("{setting." + setting.name() + "}"));
            if (setting.isSecret() && page.isPresent()) {
                add(
                        List.of("record_page"),
                        setting.name() + " is secret and cannot be part of an address that people see.");
            }
        }
    }
}
