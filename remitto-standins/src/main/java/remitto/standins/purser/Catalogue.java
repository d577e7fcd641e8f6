package remitto.standins.purser;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;
import tools.jackson.databind.ObjectMapper;

/** The objects Purser knows, with their fields. */
record Catalogue(List<CatalogueObject> objects) {

    record CatalogueObject(String name, String title, boolean people, List<CatalogueField> fields) {
        Optional<CatalogueField> field(String name) {
            return fields.stream().filter(field -> field.name().equals(name)).findFirst();
        }
    }

    static Catalogue load(ObjectMapper json) {
        try (InputStream in = Catalogue.class.getResourceAsStream("/purser/catalogue.json")) {
            return json.readValue(in, Catalogue.class);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    Optional<CatalogueObject> object(String name) {
        return objects.stream().filter(object -> object.name().equals(name)).findFirst();
    }
}
