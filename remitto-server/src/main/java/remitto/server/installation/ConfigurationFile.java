package remitto.server.installation;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.commons.text.similarity.LevenshteinDistance;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import remitto.server.installation.ConfigurationFault.Line;

/** Reads a configuration file: each key is a setting, each value fits it, or the line is named. */
public final class ConfigurationFile {
    private static final int MOST_BYTES = 200_000;
    private static final int LIKELY = 3;
    private static final String FORWARDED = "server.forward-headers-strategy";
    private static final String LOG_FORMAT = "logging.structured.format.console";
    private static final String ELASTIC_COMMON_SCHEMA = "ecs";
    private static final Set<String> LOOPBACK = Set.of("127.0.0.1", "localhost", "::1", "[::1]");

    private final Path file;
    private final Map<String, Setting> known =
            Setting.all().stream().collect(Collectors.toMap(Setting::key, one -> one));
    private final Map<String, Object> values = new LinkedHashMap<>();
    private final List<Line> faults = new ArrayList<>();

    private ConfigurationFile(Path file) {
        this.file = file.toAbsolutePath();
    }

    /**
     * The settings of a file by key; those it leaves out have their defaults.
     *
     * @throws ConfigurationFault naming every line that is wrong
     */
    public static Map<String, Object> read(Path file) {
        ConfigurationFile read = new ConfigurationFile(file);
        read.compose().ifPresent(root -> read.section("", root));
        for (Setting setting : Setting.all()) {
            if (!read.values.containsKey(setting.key())) {
                new Compose(LoadSettings.builder().build())
                        .composeString(setting.usual())
                        .ifPresent(node -> read.value(setting, node, 0));
            }
        }
        if (!read.faults.isEmpty()) {
            throw new ConfigurationFault(file.getFileName().toString(), read.faults);
        }
        return read.values;
    }

    /** The same as properties of the server. */
    public static Map<String, String> properties(Path file) {
        Map<String, Object> values = read(file);
        Map<String, String> properties = new LinkedHashMap<>();
        for (Setting setting : Setting.all()) {
            if (!setting.property().isEmpty()) {
                Object value = values.get(setting.key());
                properties.put(
                        setting.property(),
                        value instanceof List<?> list
                                ? list.stream().map(Object::toString).collect(Collectors.joining(","))
                                : String.valueOf(value));
            }
        }
        properties.computeIfPresent("spring.datasource.url", (name, url) -> encrypted(url));
        properties.computeIfPresent(LOG_FORMAT, (name, json) -> json.equals("true") ? ELASTIC_COMMON_SCHEMA : null);
        properties.computeIfPresent(FORWARDED, (name, trusted) -> trusted.equals("true") ? "native" : "none");
        return properties;
    }

    /** TLS beyond this machine, unless the address says otherwise. */
    static String encrypted(String url) {
        String host = Optional.ofNullable(
                        URI.create(url.substring("jdbc:".length())).getHost())
                .orElse("");
        return LOOPBACK.contains(host) || url.contains("sslmode=")
                ? url
                : url + (url.contains("?") ? "&" : "?") + "sslmode=require";
    }

    private Optional<Node> compose() {
        try {
            if (Files.size(file) > MOST_BYTES) {
                fault(0, "the file has more than " + MOST_BYTES + " bytes, so it is no configuration of Remitto.");
                return Optional.empty();
            }
            return new Compose(
                            LoadSettings.builder().setAllowDuplicateKeys(true).build())
                    .composeString(Files.readString(file));
        } catch (IOException e) {
            fault(0, "the file cannot be read: " + e.getMessage() + ".");
        } catch (MarkedYamlEngineException e) {
            fault(e.getProblemMark().map(Mark::getLine).orElse(0) + 1, "this is not YAML: " + e.getProblem() + ".");
        } catch (YamlEngineException e) {
            fault(1, "this is not YAML: " + e.getMessage() + ".");
        }
        return Optional.empty();
    }

    private void section(String before, Node node) {
        if (!(node instanceof MappingNode mapping)) {
            fault(
                    line(node),
                    before.isEmpty()
                            ? "the file must hold settings, one a line."
                            : before.substring(0, before.length() - 1)
                                    + " is a section; write its settings below it, indented.");
            return;
        }
        for (NodeTuple tuple : mapping.getValue()) {
            String key = before
                    + (tuple.getKeyNode() instanceof ScalarNode scalar
                            ? scalar.getValue()
                            : tuple.getKeyNode().toString());
            int line = line(tuple.getKeyNode());
            if (known.containsKey(key)) {
                if (values.containsKey(key)) {
                    fault(line, key + " appears twice.");
                } else {
                    value(known.get(key), tuple.getValueNode(), line);
                }
            } else if (known.keySet().stream().anyMatch(one -> one.startsWith(key + "."))) {
                section(key + ".", tuple.getValueNode());
            } else {
                fault(line, "there is no setting " + key + "." + likely(key));
            }
        }
    }

    private String likely(String key) {
        LevenshteinDistance distance = LevenshteinDistance.getDefaultInstance();
        return known.keySet().stream()
                .filter(one -> distance.apply(one, key) <= LIKELY)
                .min((one, other) -> distance.apply(one, key) - distance.apply(other, key))
                .map(one -> " Did you mean " + one + "?")
                .orElse("");
    }

    private void value(Setting setting, Node node, int line) {
        Optional<Object> value = setting.kind() == Setting.Kind.LIST ? list(node) : scalar(setting, node);
        value.ifPresentOrElse(
                found -> values.put(setting.key(), found),
                () -> fault(line, setting.key() + " must be " + setting.kind().words() + "."));
        if (value.isEmpty()) {
            values.put(setting.key(), "");
        } else if (setting.kind() == Setting.Kind.SECRET
                || (setting.kind() == Setting.Kind.SECRET_OR_NONE
                        && !value.get().toString().isEmpty())) {
            secret(setting, value.get().toString(), line);
        } else if (setting.key().equals("database.url")
                && !value.get().toString().startsWith("jdbc:postgresql://")) {
            fault(line, "database.url must begin with jdbc:postgresql://.");
        }
    }

    private static Optional<Object> list(Node node) {
        if (!(node instanceof SequenceNode sequence)
                || !sequence.getValue().stream().allMatch(ScalarNode.class::isInstance)) {
            return Optional.empty();
        }
        return Optional.of(sequence.getValue().stream()
                .map(one -> ((ScalarNode) one).getValue())
                .toList());
    }

    private Optional<Object> scalar(Setting setting, Node node) {
        if (!(node instanceof ScalarNode scalar)) {
            return Optional.empty();
        }
        String text = scalar.getValue();
        return switch (setting.kind()) {
            case PORT -> number(text, 1, 65_535);
            case MEGABYTES -> number(text, 512, Integer.MAX_VALUE);
            case PATH -> text.isEmpty() || text.matches("(/[A-Za-z0-9._~-]+)+") ? Optional.of(text) : Optional.empty();
            case COUNT -> number(text, 1, Integer.MAX_VALUE);
            case FLAG -> text.equals("true") || text.equals("false") ? Optional.of(text) : Optional.empty();
            case DURATION -> text.matches("\\d{1,6}[smhd]") ? Optional.of(text) : Optional.empty();
            case FILE, SECRET ->
                text.isBlank()
                        ? Optional.empty()
                        : Optional.of(file.getParent().resolve(text).toString());
            case SECRET_OR_NONE ->
                Optional.of(text.isBlank() ? "" : file.getParent().resolve(text).toString());
            case TEXT, LIST -> Optional.of(text);
        };
    }

    private static Optional<Object> number(String text, int least, int most) {
        return text.matches("\\d{1,9}") && Integer.parseInt(text) >= least && Integer.parseInt(text) <= most
                ? Optional.of(Integer.parseInt(text))
                : Optional.empty();
    }

    private void secret(Setting setting, String place, int line) {
        try {
            values.put(setting.key(), Files.readString(Path.of(place)).strip());
        } catch (IOException e) {
            fault(line, setting.key() + " names " + place + ", which cannot be read.");
        }
    }

    private void fault(int line, String message) {
        faults.add(new Line(line, message));
    }

    private static int line(Node node) {
        return node.getStartMark().map(Mark::getLine).orElse(-1) + 1;
    }
}
