package remitto.server.definition;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Files to be compared with what is here, or applied.
 *
 * @param inService whether what has versions goes into service; otherwise it is saved only
 * @param remove whether what has no file is removed
 * @param leave kinds that are looked after otherwise: their files are passed over, and nothing of them is removed
 * @param names by kind, what is called otherwise here, by its name in the files
 * @param secrets by path, the secrets of a source or destination by their settings; what is missing stays as it is
 * @param state of the plan that somebody has seen; refused if a definition changed since. Absent to apply whatever is here
 * @param note of the versions that are saved
 */
public record DefinitionRequest(
        List<DefinitionFile> files,
        boolean inService,
        boolean remove,
        List<String> leave,
        Map<String, Map<String, String>> names,
        Map<String, Map<String, String>> secrets,
        Optional<String> state,
        String note) {
    public DefinitionRequest {
        files = List.copyOf(files);
        leave = List.copyOf(leave);
        names = Map.copyOf(names);
        secrets = Map.copyOf(secrets);
    }
}
