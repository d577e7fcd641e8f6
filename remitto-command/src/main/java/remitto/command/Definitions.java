package remitto.command;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** What plan and apply have in common: files of a folder for an installation, and how what they change is told. */
final class Definitions {
    @Option(names = "--in-service", description = "Put in service what has versions; otherwise it is saved only.")
    private boolean inService;

    @Option(names = "--remove", description = "Remove what has no file. Refused while something uses it.")
    private boolean remove;

    Map<String, Object> request(Where.Target target, Map<String, String> environment, String note) {
        SortedMap<String, String> texts = new DefinitionFolder(target.directory()).read();
        List<Map<String, String>> files = new ArrayList<>();
        texts.forEach((path, text) -> files.add(Map.of("path", path, "text", text)));
        Map<String, Object> request = new HashMap<>();
        request.put("files", files);
        request.put("inService", inService);
        request.put("remove", remove);
        request.put("leave", target.installation().leave());
        request.put("names", target.installation().names());
        request.put("secrets", target.secrets(environment));
        request.put("note", note);
        return request;
    }

    /** Faults as compilers tell them, so that editors jump to the line. */
    static void faults(JsonNode plan, Said said) {
        plan.path("faults")
                .forEach(fault -> said.line(fault.path("path").asString() + ":"
                        + fault.path("line").asInt() + ": "
                        + fault.path("message").asString()));
    }

    static void changes(JsonNode plan, Said said) {
        plan.path("changes").forEach(change -> {
            String act = change.path("act").asString();
            if (!act.equals("LEAVE")) {
                said.line(sign(act) + " " + change.path("path").asString() + "  " + words(act)
                        + (change.path("atOnce").asBoolean() && !act.equals("REMOVE") ? ", which counts at once" : ""));
                change.path("differences").forEach(difference -> said.line("    " + difference.asString()));
            }
        });
        long left = plan.path("changes")
                .valueStream()
                .filter(change -> change.path("act").asString().equals("LEAVE"))
                .count();
        said.line(counted(plan.path("changes").size() - (int) left, "change", "changes") + ", "
                + plan.path("same").asInt() + " as they are"
                + (left == 0 ? "" : ", " + left + " without a file stay (see --remove)") + ".");
        if (left > 0) {
            plan.path("changes")
                    .valueStream()
                    .filter(change -> change.path("act").asString().equals("LEAVE"))
                    .forEach(change -> said.line("  " + change.path("path").asString()));
        }
    }

    private static String counted(int number, String one, String many) {
        return number + " " + (number == 1 ? one : many);
    }

    private static String sign(String act) {
        return switch (act) {
            case "ADD" -> "+";
            case "REMOVE" -> "-";
            case "PUT_IN_SERVICE" -> ">";
            default -> "~";
        };
    }

    private static String words(String act) {
        return switch (act) {
            case "ADD" -> "is new";
            case "REMOVE" -> "is removed";
            case "PUT_IN_SERVICE" -> "goes into service";
            default -> "changes";
        };
    }

    /** How many things would be done. */
    static int many(JsonNode plan) {
        return (int) plan.path("changes")
                .valueStream()
                .filter(change -> !change.path("act").asString().equals("LEAVE"))
                .count();
    }
}
