package remitto.connect.yaml;

import java.util.List;
import java.util.Optional;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.api.lowlevel.Parse;
import org.snakeyaml.engine.v2.events.AliasEvent;
import org.snakeyaml.engine.v2.events.CollectionEndEvent;
import org.snakeyaml.engine.v2.events.CollectionStartEvent;
import org.snakeyaml.engine.v2.events.Event;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/**
 * Where the parts of a YAML text stand. A text with aliases, or nested deeper than anybody writes by hand, is not read: a short one of
 * either kind can stand for more than there is memory.
 */
public final class YamlPlaces {
    /** What the largest crosswalk comes to, and no text that fills the memory. */
    public static final int LONGEST = 8_000_000;

    private static final int DEEPEST = 60;

    /** Reading one long line takes time by the square of its length. */
    private static final int LONGEST_LINE = 100_000;

    private final Optional<Node> root;
    private final Optional<Unreadable> unreadable;

    /**
     * Why a text is not YAML, or not one that is read.
     *
     * @param line from 1
     */
    public record Unreadable(int line, String message) {}

    public YamlPlaces(String text) {
        Optional<Node> composed = Optional.empty();
        Optional<Unreadable> fault;
        try {
            fault = unbounded(text);
            if (fault.isEmpty()) {
                composed = new Compose(settings()).composeString(text);
            }
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

    public Optional<Unreadable> unreadable() {
        return unreadable;
    }

    /** For whoever reads the same text. */
    public static LoadSettings settings() {
        return LoadSettings.builder().setCodePointLimit(LONGEST).build();
    }

    /** Found from the parts as they come, before anything is built of them. */
    private static Optional<Unreadable> unbounded(String text) {
        int number = 0;
        for (int from = 0; from < text.length(); number++) {
            int end = text.indexOf('\n', from);
            int to = end < 0 ? text.length() : end;
            if (to - from > LONGEST_LINE) {
                return Optional.of(new Unreadable(
                        number + 1, "a line of more than " + LONGEST_LINE + " characters, which nobody writes"));
            }
            from = to + 1;
        }
        int depth = 0;
        for (Event event : new Parse(settings()).parseString(text)) {
            if (event instanceof AliasEvent) {
                return Optional.of(new Unreadable(
                        line(event.getStartMark()), "aliases (*name) are not read; write the value where it belongs"));
            }
            if (event instanceof CollectionStartEvent && ++depth > DEEPEST) {
                return Optional.of(
                        new Unreadable(line(event.getStartMark()), "nested deeper than " + DEEPEST + " levels"));
            }
            if (event instanceof CollectionEndEvent) {
                depth--;
            }
        }
        return Optional.empty();
    }

    private static int line(Optional<Mark> mark) {
        return mark.map(Mark::getLine).orElse(0) + 1;
    }

    /**
     * The line, from 1, of a value or of its name.
     *
     * @param path names and positions from the top; the nearest part that is there counts
     */
    public int line(List<String> path) {
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
