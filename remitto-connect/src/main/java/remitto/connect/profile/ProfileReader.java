package remitto.connect.profile;

import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import remitto.connect.yaml.YamlPlaces;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.PropertyNamingStrategies;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.dataformat.yaml.YAMLMapper;

/** Reads profiles (YAML) and checks them against their JSON Schema (draft 2020-12). */
public final class ProfileReader {
    private static final Set<String> WITHOUT_CALLS = Set.of("postgresql", "sftp", "folder");
    /** Far above any profile there is; what is longer is a mistake, or meant to keep us busy. */
    private static final int MOST_LINES = 5_000;

    private static final int MOST_CHARACTERS = 500_000;
    /** Nobody reads more of what is wrong; finding out where each stands takes time. */
    private static final int MOST_FAULTS = 100;

    private static final Pattern SETTING = Pattern.compile("\\{setting\\.([^}]+)}");

    private final ObjectMapper yaml = YAMLMapper.builder()
            .propertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
            .enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
            .build();
    private final Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
            .getSchema(resource("profile.schema.json"));

    /**
     * An error in a text, with its line.
     *
     * One thing that is wrong.
     *
     * @param place names and positions from the top, such as {@code /limits/calls}
     * @param line from 1
     */
    public record TextFault(String place, int line, String message) {
        private boolean isSaidBy(TextFault other) {
            return line == other.line && message.equals(other.message);
        }

        @Override
        public String toString() {
            return "line " + line + ", " + place + ": " + message;
        }
    }

    /** What is wrong with a profile, all at once. */
    public static final class ProfileFault extends RuntimeException {
        private final transient List<TextFault> faults;

        ProfileFault(List<TextFault> faults) {
            super(faults.stream().map(TextFault::toString).collect(Collectors.joining("; ")));
            this.faults = List.copyOf(faults);
        }

        public List<TextFault> faults() {
            return faults;
        }
    }

    /**
     * A text that somebody writes now.
     *
     * @throws ProfileFault if it is not YAML, not a profile, or names what is not there
     */
    public Profile read(String text) {
        return read(text, true);
    }

    /**
     * A text that was saved. What it names is not looked at again, so that one from before there was such a check stays readable.
     *
     * @throws ProfileFault if it is not YAML, or not a profile
     */
    public Profile readSaved(String text) {
        return read(text, false);
    }

    private Profile read(String text, boolean whatItNames) {
        requireReadable(text);
        YamlPlaces places = new YamlPlaces(text);
        places.unreadable().ifPresent(fault -> {
            throw new ProfileFault(List.of(new TextFault("", fault.line(), fault.message())));
        });
        try {
            JsonNode tree = yaml.readTree(text);
            List<TextFault> faults = new ArrayList<>();
            schema.validate(tree).stream()
                    .limit(MOST_FAULTS)
                    .map(error -> fault(error, places))
                    .distinct()
                    .forEach(faults::add);
            if (!faults.isEmpty()) {
                throw new ProfileFault(faults);
            }
            Profile profile = yaml.treeToValue(whole(tree), Profile.class);
            unknownSettings(profile, text).stream().limit(MOST_FAULTS).forEach(faults::add);
            if (whatItNames) {
                WordsOfCalls.faults(tree, profile, places).stream()
                        .limit(MOST_FAULTS)
                        .filter(fault -> faults.stream().noneMatch(fault::isSaidBy))
                        .forEach(faults::add);
            }
            if (!faults.isEmpty()) {
                throw new ProfileFault(faults);
            }
            return profile;
        } catch (JacksonException e) {
            int line = e.getLocation() == null ? 1 : Math.max(1, e.getLocation().getLineNr());
            throw new ProfileFault(List.of(new TextFault("", line, firstLine(e.getOriginalMessage()))));
        }
    }

    private static void requireReadable(String text) {
        long lines = text.chars().filter(c -> c == '\n').limit(MOST_LINES).count();
        if (lines >= MOST_LINES || text.length() > MOST_CHARACTERS) {
            throw new ProfileFault(List.of(new TextFault(
                    "", 1, "A profile has at most " + MOST_LINES + " lines and " + MOST_CHARACTERS + " characters.")));
        }
    }

    /** A database says itself what a profile otherwise says of calls, and files are laid out elsewhere. */
    private static JsonNode whole(JsonNode tree) {
        if (tree instanceof ObjectNode profile
                && WITHOUT_CALLS.contains(profile.path("speaks").asString(""))) {
            List.of("objects", "fields", "results").forEach(profile::putObject);
            ObjectNode add = profile.putObject("add");
            add.put("method", "POST").put("path", "");
            List.of("body", "record").forEach(add::putObject);
        }
        return tree;
    }

    private static TextFault fault(Error error, YamlPlaces places) {
        String place = error.getInstanceLocation().toString();
        List<String> path = new ArrayList<>();
        for (int at = 0; at < error.getInstanceLocation().getNameCount(); at++) {
            path.add(String.valueOf(error.getInstanceLocation().getName(at)));
        }
        if (error.getProperty() != null && error.getMessageKey().equals("additionalProperties")) {
            path.add(error.getProperty());
        }
        return new TextFault(place, places.line(path), error.getMessage());
    }

    /** Settings that are named but never asked for. */
    private static List<TextFault> unknownSettings(Profile profile, String text) {
        Set<String> asked =
                profile.connection().stream().map(Profile.Setting::name).collect(Collectors.toSet());
        Set<TextFault> faults = new LinkedHashSet<>();
        int number = 0;
        for (String line : text.split("\n", -1)) {
            number++;
            Matcher named = SETTING.matcher(line);
            while (named.find()) {
                if (!asked.contains(named.group(1))) {
                    faults.add(new TextFault("/connection", number, "the connection has no setting " + named.group(1)));
                }
            }
        }
        return List.copyOf(faults);
    }

    private static String firstLine(String message) {
        return message.lines().findFirst().orElse(message);
    }

    /** The text of a profile or schema that ships with this module. */
    public static String resource(String name) {
        try (InputStream in = ProfileReader.class.getResourceAsStream("/profiles/" + name)) {
            if (in == null) {
                throw new IllegalArgumentException("no profile resource " + name);
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
