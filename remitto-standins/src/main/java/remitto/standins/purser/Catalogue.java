package remitto.standins.purser;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** The objects Purser knows, with their fields, and what somebody changed about them since. */
final class Catalogue {
    private final ObjectMapper json;
    private final List<CatalogueObject> shipped;
    private final DurableLog edits;
    private volatile List<CatalogueObject> objects;

    private Catalogue(ObjectMapper json, List<CatalogueObject> shipped, Path file) {
        this.json = json;
        this.shipped = shipped;
        this.objects = shipped;
        this.edits = new DurableLog(file, json, line -> apply(json.treeToValue(line, Edit.class)));
    }

    private record Shipped(List<CatalogueObject> objects) {}

    record CatalogueObject(String name, String title, boolean people, List<CatalogueField> fields) {
        Optional<CatalogueField> field(String name) {
            return fields.stream().filter(field -> field.name().equals(name)).findFirst();
        }
    }

    /** @param change remove, shrink, require, relax, lock, drop-choice or add-choice */
    record Edit(String object, String field, String change, String value) {}

    /** @param file where changes are kept across restarts */
    static Catalogue load(ObjectMapper json, Path file) {
        try (InputStream in = Catalogue.class.getResourceAsStream("/purser/catalogue.json")) {
            return new Catalogue(json, json.readValue(in, Shipped.class).objects(), file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    List<CatalogueObject> objects() {
        return objects;
    }

    Optional<CatalogueObject> object(String name) {
        return objects.stream().filter(object -> object.name().equals(name)).findFirst();
    }

    /** Changes a field, durably. */
    synchronized void edit(Edit edit) {
        if (object(edit.object()).flatMap(found -> found.field(edit.field())).isEmpty()) {
            throw new IllegalArgumentException("no field " + edit.field() + " of " + edit.object());
        }
        apply(edit);
        JsonNode line = json.valueToTree(edit);
        edits.append(line);
    }

    /** Back to how it ships. */
    synchronized void reset() {
        edits.clear();
        objects = shipped;
    }

    private void apply(Edit edit) {
        List<CatalogueObject> next = new ArrayList<>();
        for (CatalogueObject object : objects) {
            next.add(object.name().equals(edit.object()) ? changed(object, edit) : object);
        }
        objects = List.copyOf(next);
    }

    private static CatalogueObject changed(CatalogueObject object, Edit edit) {
        List<CatalogueField> fields = new ArrayList<>();
        for (CatalogueField field : object.fields()) {
            if (!field.name().equals(edit.field())) {
                fields.add(field);
            } else if (!edit.change().equals("remove")) {
                fields.add(field.changed(edit.change(), edit.value()));
            }
        }
        return new CatalogueObject(object.name(), object.title(), object.people(), List.copyOf(fields));
    }
}
