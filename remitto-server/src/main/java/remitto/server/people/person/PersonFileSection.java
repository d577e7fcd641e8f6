package remitto.server.people.person;

import java.util.List;
import remitto.server.platform.Personal;

/** A part of what is kept of a person, told by whoever keeps it. */
public interface PersonFileSection {
    /**
     * One table of a person's file.
     *
     * @param why it is kept, in a sentence
     * @param rows texts in the order of the columns; what is empty is blank
     */
    record FileTable(
            String title,
            String why,
            List<String> columns,
            @Personal List<List<String>> rows) {
        public FileTable {
            columns = List.copyOf(columns);
            rows = List.copyOf(rows);
        }
    }

    /** Where it stands in the file; lower comes first. */
    int place();

    List<FileTable> of(long person);
}
