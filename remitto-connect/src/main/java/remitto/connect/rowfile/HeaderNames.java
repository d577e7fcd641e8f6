package remitto.connect.rowfile;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What the columns of a delimited file are called: each by its own name, whatever the first row says. */
final class HeaderNames {
    private HeaderNames() {}

    /** @param cells of the first row: blank ones are called by their place, doubled ones get a number */
    static List<String> of(List<@Nullable String> cells) {
        List<String> names = new ArrayList<>();
        Set<String> taken = new HashSet<>();
        for (String cell : cells) {
            String name = cell == null || cell.isBlank() ? "column " + (names.size() + 1) : cell.strip();
            String free = name;
            for (int i = 2; !taken.add(free); i++) {
                free = name + " (" + i + ")";
            }
            names.add(free);
        }
        return names;
    }

    /** Of a file without a header. */
    static List<String> numbered(int columns) {
        List<String> names = new ArrayList<>();
        for (int i = 1; i <= columns; i++) {
            names.add("column " + i);
        }
        return names;
    }
}
