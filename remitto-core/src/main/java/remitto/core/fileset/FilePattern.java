package remitto.core.fileset;

import java.util.Optional;
import java.util.regex.Pattern;

/** A pattern of paths, with slashes between folders. Upper and lower case are told apart. */
public final class FilePattern {
    private static final int LONGEST = 300;

    private final Pattern pattern;

    /** @throws IllegalArgumentException if it is none */
    public FilePattern(String text) {
        fault(text).ifPresent(fault -> {
            throw new IllegalArgumentException(fault);
        });
        StringBuilder regex = new StringBuilder();
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean twice = c == '*' && i + 1 < text.length() && text.charAt(i + 1) == '*';
            if (twice) {
                // Folders before a name may be none at all.
                boolean folders = i + 2 < text.length() && text.charAt(i + 2) == '/';
                regex.append(folders ? "(?:.*/)?" : ".*");
                i += folders ? 2 : 1;
            } else if (c == '*') {
                regex.append("[^/]*");
            } else if (c == '?') {
                regex.append("[^/]");
            } else {
                regex.append(Pattern.quote(String.valueOf(c)));
            }
        }
        this.pattern = Pattern.compile(regex.toString(), Pattern.DOTALL);
    }

    /** What is wrong with a text as a pattern; empty if nothing is. */
    public static Optional<String> fault(String text) {
        if (text.isBlank() || text.length() > LONGEST) {
            return Optional.of("Enter the pattern of the files' names, such as berths_*.csv.");
        }
        if (text.startsWith("/") || text.contains("\\") || ("/" + text + "/").contains("/../")) {
            return Optional.of("A pattern stays within the source's folder, with slashes between folders.");
        }
        if (text.chars().filter(c -> c == '*').count() > 6) {
            return Optional.of("A pattern has at most six asterisks.");
        }
        return Optional.empty();
    }

    public boolean matches(String path) {
        return pattern.matcher(path).matches();
    }
}
