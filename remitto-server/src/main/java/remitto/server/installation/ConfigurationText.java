package remitto.server.installation;

import java.util.Map;

/** Writes a configuration file with every setting, what it is for, and its default. */
final class ConfigurationText {
    private ConfigurationText() {}

    /** @param chosen by key, what is not as usual, as YAML */
    static String of(Map<String, String> chosen) {
        StringBuilder text = new StringBuilder("""
                # The settings of this Remitto installation. Paths begin at the folder of this file.
                # What is left out has the default that is told beside it. A restart puts changes into effect.
                """);
        String part = "";
        for (Setting setting : Setting.all()) {
            int dot = setting.key().indexOf('.');
            String above = dot < 0 ? "" : setting.key().substring(0, dot);
            String indent = dot < 0 ? "" : "  ";
            if (!above.equals(part) || above.isEmpty()) {
                text.append('\n');
            }
            if (!above.isEmpty() && !above.equals(part)) {
                text.append(above).append(":\n");
            }
            part = above;
            setting.words()
                    .forEach(line ->
                            text.append(indent).append("# ").append(line).append('\n'));
            text.append(indent).append("# Default: ").append(setting.usual()).append('\n');
            text.append(indent)
                    .append(setting.key().substring(dot + 1))
                    .append(": ")
                    .append(chosen.getOrDefault(setting.key(), setting.usual()))
                    .append('\n');
        }
        return text.toString();
    }
}
