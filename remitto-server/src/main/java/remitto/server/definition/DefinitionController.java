package remitto.server.definition;

import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.node.ObjectNode;

/** Definitions as files, for a repository beside the installation. */
@RestController
@RequestMapping("/api/definitions")
class DefinitionController {
    private final DefinitionsHere here;
    private final DefinitionPlans plans;
    private final DefinitionApplying applying;
    private final DefinitionText text;
    private final DefinitionSchema schema;

    DefinitionController(
            DefinitionsHere here,
            DefinitionPlans plans,
            DefinitionApplying applying,
            DefinitionText text,
            DefinitionSchema schema) {
        this.here = here;
        this.plans = plans;
        this.applying = applying;
        this.text = text;
        this.schema = schema;
    }

    /** What a definition is called in files, and what it is here. */
    record DefinitionName(String kind, String slug, String id, String name) {}

    /**
     * Every definition as a file: sources and destinations without their secrets, and what was saved last of what has versions.
     *
     * @param inService whether what is in service is wanted instead; what is not in service is left out then
     */
    @GetMapping
    List<DefinitionFile> definitions(@RequestParam(defaultValue = "false") boolean inService) {
        CurrentDefinitions current = here.look();
        List<DefinitionFile> files = new ArrayList<>();
        current.definitions().forEach((ref, one) -> {
            ObjectNode tree = inService && one.kind().isVersioned() ? one.live().orElse(null) : one.latest();
            if (tree != null) {
                files.add(new DefinitionFile(
                        one.kind().folder() + "/" + ref.slug() + ".yaml",
                        one.kind().isVerbatim() ? tree.path("text").asString() : text.write(one.kind(), tree)));
            }
        });
        return files;
    }

    /** What every definition is called in files. */
    @GetMapping("/names")
    List<DefinitionName> definitionNames() {
        List<DefinitionName> names = new ArrayList<>();
        here.look()
                .definitions()
                .forEach((ref, one) -> names.add(new DefinitionName(ref.kind(), ref.slug(), one.id(), one.name())));
        return names;
    }

    /** The JSON Schema (draft 2020-12) of files of definitions. Profiles have one of their own. */
    @GetMapping(path = "/schema", produces = "application/schema+json")
    String definitionSchema() {
        return schema.all().toPrettyString();
    }

    /** What applying files would change. Changes nothing. */
    @PostMapping("/plan")
    DefinitionPlan planDefinitions(@RequestBody DefinitionRequest request) {
        return plans.plan(request).plan();
    }

    /**
     * Does all that applying would do and takes it back, so that everything that would be refused is refused. Nothing outside is told.
     */
    @PostMapping("/rehearsal")
    DefinitionPlan rehearseDefinitions(@RequestBody DefinitionRequest request, Principal who) {
        return applying.apply(request, who.getName(), false);
    }

    /**
     * Applies files, all or none. 422 with path and line of everything that is wrong, 409 when a definition changed since the plan; what
     * a page would refuse is refused here in the same words.
     */
    @PostMapping("/apply")
    DefinitionPlan applyDefinitions(@RequestBody DefinitionRequest request, Principal who) {
        return applying.apply(request, who.getName(), true);
    }
}
