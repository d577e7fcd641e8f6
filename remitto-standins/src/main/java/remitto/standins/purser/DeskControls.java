package remitto.standins.purser;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.util.Optional;
import tools.jackson.databind.ObjectMapper;

/** Changes of the catalogue, by page and by API, and the controls that tests and the demo use. */
final class DeskControls {
    private final PurserStore store;
    private final Catalogue catalogue;
    private final PurserFrame frame;
    private final ObjectMapper json;

    DeskControls(PurserStore store, Catalogue catalogue, PurserFrame frame, ObjectMapper json) {
        this.frame = frame;
        this.store = store;
        this.catalogue = catalogue;
        this.json = json;
    }

    void mount(RoutesConfig routes) {
        routes.get("/schema", context -> context.html(page()));
        routes.post("/schema", context -> {
            catalogue.edit(new Catalogue.Edit(
                    form(context, "object"), form(context, "field"), form(context, "change"), form(context, "value")));
            context.redirect("/schema");
        });
        routes.put("/control/schema", context -> {
            catalogue.edit(json.readValue(context.bodyAsBytes(), Catalogue.Edit.class));
            context.status(204);
        });
        routes.delete("/control/schema", context -> {
            catalogue.reset();
            context.status(204);
        });
        routes.put("/control/data/kept", context -> {
            store.keep();
            context.status(204);
        });
        routes.post("/control/data/kept", context -> {
            store.back();
            context.status(204);
        });
        routes.delete("/control/data", context -> {
            store.clear();
            catalogue.reset();
            context.status(204);
        });
    }

    private static String form(Context context, String name) {
        return Optional.ofNullable(context.formParam(name)).orElse("").strip();
    }

    private String page() {
        return frame.page("Fields", """
                <h1>Change a field</h1><p class=quiet>As somebody who runs the CRM might: the catalogue says so at once.</p>
                <form method=post class=line>
                <input name=object aria-label=Object placeholder=object value=contact>
                <input name=field aria-label=Field placeholder=field>
                <select name=change aria-label=Change><option value=remove>remove<option value=shrink>shrink to
                <option value=require>require<option value=relax>relax<option value=lock>lock for clients
                <option value=drop-choice>drop the choice<option value=add-choice>add the choice</select>
                <input name=value aria-label=Value placeholder="length or choice"> <button>Change</button></form>
                """);
    }
}
