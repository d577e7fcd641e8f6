package remitto.server.definition;

/**
 * What is wrong with a file.
 *
 * @param line from 1
 */
public record DefinitionFault(String path, int line, String message) {
    @Override
    public String toString() {
        return path + ", line " + line + ": " + message;
    }
}
