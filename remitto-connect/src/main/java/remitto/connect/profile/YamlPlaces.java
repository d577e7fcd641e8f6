package remitto.connect.profile;

import java.util.List;
import java.util.Optional;
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

/** Where the parts of a YAML text stand. */
final class YamlPlaces {
    private final Optional<Node> root;
    private final Optional<Unreadable> unreadable;

    /**
     * Why a text is not YAML.
     *
     * @param line from 1
     */
    record Unreadable(int line, String message) {}

    YamlPlaces(String text) {
        Optional<Node> composed = Optional.empty();
        Optional<Unreadable> fault = Optional.empty();
        try {
            composed = new Compose(LoadSettings.builder().build()).composeString(text);
        } catch (MarkedYamlEngineException e) {
            int line =
                    e.getContextMark().or(e::getProblemMark).map(Mark::getLine).orElse(0) + 1;
            String context = e.getContext() == null || e.getContext().isBlank() ? "" : " " + e.getContext();
            fault = Optional.of(new Unreadable(line, e.getProblem() + context));
        } catch (YamlEngineException e) {
            fault = Optional.of(new Unreadable(1, String.valueOf(e.getMessage())));
        }
        this.root = composed;
        this.unreadable = fault;
    }

    Optional<Unreadable> unreadable() {
        return unreadable;
    }

    /**
     * Main navigation, from 1, of a value or of its name.
     *
     * @param path names and positions from the top; the nearest part that is there counts
     */
    int line(List<String> path) {
        return root.map(node -> line(node, path, 1)).orElse(1);
    }

    private static int line(Node node, List<String> path, int nearest) {
        if (path.isEmpty()) {
            return nearest;
        }
        String step = path.get(0);
        List<String> rest = path.subList(1, path.size());
        if (node instanceof MappingNode mapping) {
            for (NodeTuple tuple : mapping.getValue()) {
                if (tuple.getKeyNode() instanceof ScalarNode key
                        && key.getValue().equals(step)) {
                    return line(tuple.getValueNode(), rest, start(key, nearest));
                }
            }
        } else if (node instanceof SequenceNode sequence && step.matches("\\d{1,6}")) {
            int at = Integer.parseInt(step);
            if (at < sequence.getValue().size()) {
                Node item = sequence.getValue().get(at);
                return line(item, rest, start(item, nearest));
            }
        }
        return nearest;
    }

    private static int start(Node node, int otherwise) {
        return node.getStartMark().map(Mark::getLine).map(line -> line + 1).orElse(otherwise);
    }
}
