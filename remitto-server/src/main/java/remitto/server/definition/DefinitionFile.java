package remitto.server.definition;

/**
 * A definition as a file.
 *
 * @param path its folder and name, such as {@code datasets/passengers.yaml}
 * @param text YAML as the schema of definitions says; of a profile, the profile itself
 */
public record DefinitionFile(String path, String text) {}
