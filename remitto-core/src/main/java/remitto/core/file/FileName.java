package remitto.core.file;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a file is called: a pattern with parts in braces. Dates and times are the basic formats of ISO 8601, of the moment the run
 * began, so that a file that is written again after a crash has the same name.
 */
public record FileName(String pattern) {
    private static final Pattern PART = Pattern.compile("\\{([a-z]*)}");
    private static final Set<String> PARTS = Set.of("date", "time", "run", "route");
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("yyyyMMdd");
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HHmmss");
    private static final Pattern UNSAFE = Pattern.compile("[\\p{Cntrl}/\\\\:*?\"<>|]");

    public FileName {
        if (pattern.isBlank()
                || pattern.startsWith(".")
                || UNSAFE.matcher(pattern).find()) {
            throw new IllegalArgumentException(
                    "A file name is not empty, begins with no full stop, and has none of / \\ : * ? \" < > | in it.");
        }
        Matcher parts = PART.matcher(pattern);
        while (parts.find()) {
            if (!PARTS.contains(parts.group(1))) {
                throw new IllegalArgumentException(
                        "{" + parts.group(1) + "} is not known; there are {date}, {time}, {run} and {route}.");
            }
        }
        if (PART.matcher(pattern).replaceAll("").matches(".*[{}].*")) {
            throw new IllegalArgumentException("A brace in \"" + pattern + "\" is never closed or never opened.");
        }
    }

    /** Whether every run's file has a name of its own. */
    public boolean differsEachRun() {
        return pattern.contains("{run}") || pattern.contains("{date}") && pattern.contains("{time}");
    }

    /**
     * @param file number of the file within its run, from 1; from the second on it stands in the name
     * @param ending such as .csv or .csv.gz; added where the pattern does not end so
     */
    public String of(String route, long run, Instant began, ZoneId zone, int file, String ending) {
        String name = PART.matcher(pattern)
                .replaceAll(part -> Matcher.quoteReplacement(
                        switch (part.group(1)) {
                            case "date" -> DATE.format(began.atZone(zone));
                            case "time" -> TIME.format(began.atZone(zone));
                            case "run" -> Long.toString(run);
                            default -> UNSAFE.matcher(route).replaceAll("-").replace(' ', '-');
                        }));
        String stem = name.endsWith(ending) ? name.substring(0, name.length() - ending.length()) : name;
        return stem + (file > 1 ? "-" + file : "") + ending;
    }
}
