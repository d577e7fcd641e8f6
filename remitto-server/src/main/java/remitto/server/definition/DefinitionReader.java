package remitto.server.definition;

import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.stereotype.Component;
import remitto.connect.yaml.YamlPlaces;
import remitto.server.platform.Problem;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.IntNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Reads files of definitions, and says of each with its line what is wrong with it. */
@Component
class DefinitionReader {
    private static final Pattern PATH =
            Pattern.compile("(?<folder>[a-z-]{1,40})/(?<slug>" + DefinitionNames.FORM + ")\\.ya?ml");
    private static final int MOST_FILES = 5_000;
    /** Nobody reads more of what is wrong. */
    private static final int MOST_FAULTS = 200;

    private final DefinitionsHere here;
    private final DefinitionText text;
    private final DefinitionSchema schemas;
    private final Map<String, Schema> compiled = new HashMap<>();

    DefinitionReader(DefinitionsHere here, DefinitionText text, DefinitionSchema schemas) {
        this.here = here;
        this.text = text;
        this.schemas = schemas;
    }

    /**
     * A file that was read.
     *
     * @param tree what it says, with names where ids are kept
     */
    record Read(String path, DefinitionKind<?> kind, String slug, ObjectNode tree, YamlPlaces places) {
        Ref ref() {
            return new Ref(kind.kind(), slug);
        }
    }

    /**
     * What was read of many files.
     *
     * @param meant all that there is a file of, be it readable or not
     */
    record ReadFiles(List<Read> read, Set<Ref> meant, List<DefinitionFault> faults) {}

    /** @param names by kind, what is called otherwise here, by its name in files */
    ReadFiles read(List<DefinitionFile> files, Map<String, Map<String, String>> names) {
        if (files.size() > MOST_FILES) {
            throw Problem.invalid(
                    "At most " + MOST_FILES + " files are taken at once; these are " + files.size() + ".");
        }
        List<Read> read = new ArrayList<>();
        List<DefinitionFault> faults = new ArrayList<>();
        Map<Ref, String> seen = new HashMap<>();
        Set<Ref> meant = new HashSet<>();
        for (DefinitionFile file : files) {
            meant(file)
                    .map(ref -> new Ref(ref.kind(), name(ref.kind(), ref.slug(), names)))
                    .ifPresent(meant::add);
            read(file, faults).map(one -> renamed(one, names)).ifPresent(one -> {
                String before = seen.putIfAbsent(one.ref(), one.path());
                if (before == null) {
                    read.add(one);
                } else {
                    faults.add(new DefinitionFault(one.path(), 1, "is the same definition as " + before));
                }
            });
            if (faults.size() > MOST_FAULTS) {
                break;
            }
        }
        return new ReadFiles(read, meant, faults);
    }

    private Optional<Ref> meant(DefinitionFile file) {
        Matcher path = PATH.matcher(file.path());
        return path.matches()
                ? kind(path.group("folder")).map(kind -> new Ref(kind.kind(), path.group("slug")))
                : Optional.empty();
    }

    private Optional<DefinitionKind<?>> kind(String folder) {
        return here.kinds().stream().filter(one -> one.folder().equals(folder)).findFirst();
    }

    private Optional<Read> read(DefinitionFile file, List<DefinitionFault> faults) {
        Matcher path = PATH.matcher(file.path());
        if (!path.matches()) {
            faults.add(new DefinitionFault(
                    file.path(),
                    1,
                    "is not where a definition is kept: a folder and a name in lower-case letters, digits, hyphens and"
                            + " underscores, such as datasets/passengers.yaml"));
            return Optional.empty();
        }
        Optional<DefinitionKind<?>> kind = kind(path.group("folder"));
        if (kind.isEmpty()) {
            faults.add(new DefinitionFault(
                    file.path(),
                    1,
                    "is in a folder that no kind of definition has; there are "
                            + String.join(
                                    ", ",
                                    here.kinds().stream()
                                            .map(DefinitionKind::folder)
                                            .sorted()
                                            .toList())));
            return Optional.empty();
        }
        if (file.text().length() > YamlPlaces.LONGEST) {
            faults.add(new DefinitionFault(
                    file.path(), 1, "is longer than " + YamlPlaces.LONGEST + " characters, which no definition is"));
            return Optional.empty();
        }
        YamlPlaces places = new YamlPlaces(file.text());
        if (places.unreadable().isPresent()) {
            YamlPlaces.Unreadable fault = places.unreadable().get();
            faults.add(new DefinitionFault(file.path(), fault.line(), fault.message()));
            return Optional.empty();
        }
        if (kind.get().isVerbatim()) {
            ObjectNode whole = JsonNodeFactory.instance.objectNode().put("text", file.text());
            return Optional.of(new Read(file.path(), kind.get(), path.group("slug"), whole, places));
        }
        return tree(file, kind.get(), places, faults)
                .map(tree -> new Read(file.path(), kind.get(), path.group("slug"), tree, places));
    }

    private Optional<ObjectNode> tree(
            DefinitionFile file, DefinitionKind<?> kind, YamlPlaces places, List<DefinitionFault> faults) {
        try {
            JsonNode read = text.read(file.text());
            List<Error> errors = schema(kind).validate(read);
            errors.stream()
                    .limit(MOST_FAULTS)
                    .map(error -> fault(file.path(), error, places))
                    .distinct()
                    .forEach(faults::add);
            if (!errors.isEmpty() || !(read instanceof ObjectNode object)) {
                return Optional.empty();
            }
            object.remove(List.of(DefinitionText.KIND, DefinitionText.FORMAT));
            // Read once into what it is, with any id, so that what its parts refuse is told with the file; and written
            // again, so that
            // another spelling of the same is no difference.
            ObjectNode withIds = (ObjectNode) ReferenceMembers.replaced(object, (referred, slug) -> IntNode.valueOf(0));
            Record content = text.content(kind, withIds);
            return Optional.of(withNames(text.tree(kind, content), object));
        } catch (JacksonException e) {
            faults.add(new DefinitionFault(file.path(), line(e), message(e)));
            return Optional.empty();
        }
    }

    /** The first tree with the references of the second. */
    private static ObjectNode withNames(JsonNode canonical, JsonNode named) {
        ObjectNode whole = ((ObjectNode) canonical).objectNode();
        canonical.properties().forEach(member -> {
            JsonNode there = named.path(member.getKey());
            boolean reference = ReferenceMembers.kindOf(member.getKey()).isPresent()
                    && (member.getValue().isIntegralNumber()
                            || member.getValue().isArray()
                                    && member.getValue().valueStream().allMatch(JsonNode::isIntegralNumber));
            whole.set(member.getKey(), reference ? there : both(member.getValue(), there));
        });
        return whole;
    }

    private static JsonNode both(JsonNode canonical, JsonNode named) {
        if (canonical.isObject() && named.isObject()) {
            return withNames(canonical, named);
        }
        if (canonical.isArray() && named.isArray() && canonical.size() == named.size()) {
            var items = JsonNodeFactory.instance.arrayNode();
            for (int at = 0; at < canonical.size(); at++) {
                items.add(both(canonical.get(at), named.get(at)));
            }
            return items;
        }
        return canonical;
    }

    private synchronized Schema schema(DefinitionKind<?> kind) {
        return compiled.computeIfAbsent(
                kind.kind(), name -> SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                        .getSchema(schemas.of(kind).toString()));
    }

    private static DefinitionFault fault(String path, Error error, YamlPlaces places) {
        List<String> place = new ArrayList<>();
        for (int at = 0; at < error.getInstanceLocation().getNameCount(); at++) {
            place.add(String.valueOf(error.getInstanceLocation().getName(at)));
        }
        String where = place.isEmpty() ? "" : String.join(".", place) + ": ";
        if (error.getProperty() != null && error.getMessageKey().equals("additionalProperties")) {
            place.add(error.getProperty());
            return new DefinitionFault(
                    path, places.line(place), where + "there is no \"" + error.getProperty() + "\" here");
        }
        if (error.getProperty() != null && error.getMessageKey().equals("required")) {
            return new DefinitionFault(path, places.line(place), where + "\"" + error.getProperty() + "\" is missing");
        }
        if (error.getMessage().matches("(integer|number|boolean) found, string expected")) {
            String found = error.getMessage().startsWith("boolean") ? "a truth value" : "a number";
            return new DefinitionFault(
                    path, places.line(place), where + "is " + found + " where a text is expected; write it in quotes");
        }
        return new DefinitionFault(path, places.line(place), where + error.getMessage());
    }

    private static int line(JacksonException e) {
        return e.getLocation() == null ? 1 : Math.max(1, e.getLocation().getLineNr());
    }

    private static String message(JacksonException e) {
        Throwable cause = e;
        while (cause.getCause() != null && cause.getCause() != cause) {
            cause = cause.getCause();
        }
        String said = cause instanceof JacksonException jackson ? jackson.getOriginalMessage() : cause.getMessage();
        return String.valueOf(said).lines().findFirst().orElse("cannot be read");
    }

    private static Read renamed(Read read, Map<String, Map<String, String>> names) {
        if (names.isEmpty()) {
            return read;
        }
        ObjectNode tree = (ObjectNode) ReferenceMembers.replaced(
                read.tree(),
                (kind, slug) -> tools.jackson.databind.node.StringNode.valueOf(name(kind, slug.asString(), names)));
        return new Read(read.path(), read.kind(), name(read.kind().kind(), read.slug(), names), tree, read.places());
    }

    private static String name(String kind, String slug, Map<String, Map<String, String>> names) {
        return names.getOrDefault(kind, Map.of()).getOrDefault(slug, slug);
    }
}
