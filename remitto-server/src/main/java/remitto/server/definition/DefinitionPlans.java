package remitto.server.definition;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import remitto.server.definition.DefinitionPlan.Act;
import remitto.server.definition.DefinitionReader.Read;
import remitto.server.platform.Problem;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.LongNode;
import tools.jackson.databind.node.ObjectNode;

/** Compares files with what is here. Changes nothing. */
@Component
class DefinitionPlans {
    private final DefinitionsHere here;
    private final DefinitionReader reader;
    private final DefinitionText text;

    DefinitionPlans(DefinitionsHere here, DefinitionReader reader, DefinitionText text) {
        this.here = here;
        this.reader = reader;
        this.text = text;
    }

    /**
     * A plan with what is needed to carry it out.
     *
     * @param steps in an order in which what is referred to comes first
     * @param removals of what has no file, users before what they use
     */
    record Prepared(
            DefinitionPlan plan,
            CurrentDefinitions current,
            List<Step> steps,
            List<CurrentDefinitions.Current> removals) {}

    /**
     * A file that changes something.
     *
     * @param there what is here of it; absent where it is new
     */
    record Step(Read file, Act act, Optional<CurrentDefinitions.Current> there) {}

    Prepared plan(DefinitionRequest request) {
        knownKinds(request.leave());
        knownKinds(List.copyOf(request.names().keySet()));
        CurrentDefinitions current = here.look();
        DefinitionReader.ReadFiles files = reader.read(request.files(), request.names());
        List<DefinitionFault> faults = new ArrayList<>(files.faults());
        List<Read> read = files.read().stream()
                .filter(one -> !request.leave().contains(one.kind().kind()))
                .toList();
        Set<Ref> inFiles = files.meant();
        read.forEach(one -> faults.addAll(toNothing(one, current, request, inFiles)));
        List<Step> steps = new ArrayList<>();
        int same = 0;
        for (Read one : read) {
            Optional<Step> step = step(one, current, request);
            step.ifPresent(steps::add);
            same += step.isPresent() ? 0 : 1;
        }
        List<CurrentDefinitions.Current> without = faults.isEmpty() ? without(current, inFiles, request) : List.of();
        List<Step> ordered = DefinitionOrder.of(steps, faults);
        List<DefinitionPlan.Change> changes = new ArrayList<>();
        ordered.forEach(step -> changes.add(change(step, current)));
        without.forEach(one -> changes.add(new DefinitionPlan.Change(
                path(one.kind(), current, one.id()),
                one.kind().kind(),
                one.name(),
                request.remove() ? Act.REMOVE : Act.LEAVE,
                List.of(),
                true,
                Optional.empty())));
        return new Prepared(
                new DefinitionPlan(changes, same, faults, state(current)),
                current,
                ordered,
                request.remove() ? without : List.of());
    }

    private void knownKinds(List<String> kinds) {
        List<String> known = here.kinds().stream().map(DefinitionKind::kind).toList();
        kinds.stream().filter(kind -> !known.contains(kind)).findFirst().ifPresent(kind -> {
            throw Problem.invalid(
                    "There is no kind of definition " + kind + "; there are " + String.join(", ", known) + ".");
        });
    }

    private static Optional<Step> step(Read file, CurrentDefinitions current, DefinitionRequest request) {
        Optional<CurrentDefinitions.Current> there = current.find(file.ref());
        if (there.isEmpty()) {
            return Optional.of(new Step(file, Act.ADD, there));
        }
        Map<String, String> secrets = request.secrets().getOrDefault(file.path(), Map.of());
        CurrentDefinitions.Current one = there.get();
        boolean sameSecrets = secrets.isEmpty() || one.kind().keeps(one.id(), secrets);
        if (one.says(file.tree(), request.inService()) && sameSecrets) {
            return Optional.empty();
        }
        return Optional.of(new Step(
                file, one.latest().equals(file.tree()) && sameSecrets ? Act.PUT_IN_SERVICE : Act.CHANGE, there));
    }

    /** In the order of the work backwards, so that routes go before what they read. */
    private List<CurrentDefinitions.Current> without(
            CurrentDefinitions current, Set<Ref> inFiles, DefinitionRequest request) {
        return current.definitions().entrySet().stream()
                .filter(entry -> !inFiles.contains(entry.getKey()))
                .map(Map.Entry::getValue)
                .filter(one -> !request.leave().contains(one.kind().kind()))
                .filter(one -> one.kind().isRemovable())
                .sorted((one, other) ->
                        Integer.compare(other.kind().place(), one.kind().place()))
                .toList();
    }

    private DefinitionPlan.Change change(Step step, CurrentDefinitions current) {
        Read file = step.file();
        List<String> differences = step.there()
                .map(one -> step.act() == Act.PUT_IN_SERVICE
                        ? one.live()
                                .map(live -> TreeDifferences.between(live, file.tree()))
                                .orElse(List.of())
                        : TreeDifferences.between(one.latest(), file.tree()))
                .orElse(List.of());
        return new DefinitionPlan.Change(
                file.path(),
                file.kind().kind(),
                step.there()
                        .map(CurrentDefinitions.Current::name)
                        .orElseGet(() -> file.tree().path("name").asString(file.slug())),
                step.act(),
                step.there().isPresent() && differences.isEmpty() && step.act() == Act.CHANGE
                        ? List.of("another secret")
                        : differences,
                !file.kind().isVersioned(),
                effect(step, file.kind(), current));
    }

    private <T extends Record> Optional<DefinitionPlan.EffectQuestion> effect(
            Step step, DefinitionKind<T> kind, CurrentDefinitions current) {
        boolean[] all = {step.there().isPresent()};
        JsonNode withIds = ReferenceMembers.replaced(step.file().tree(), (referred, slug) -> {
            Optional<String> id = current.id(referred, slug.asString());
            all[0] &= id.isPresent();
            return LongNode.valueOf(id.map(Long::parseLong).orElse(0L));
        });
        return all[0]
                ? kind.effect(step.there().orElseThrow().id(), text.content(kind, (ObjectNode) withIds))
                : Optional.empty();
    }

    static String path(DefinitionKind<?> kind, CurrentDefinitions current, String id) {
        return kind.folder() + "/" + current.slugs().get(kind.kind()).get(id) + ".yaml";
    }

    /** References of a file to what is neither here nor among the files. */
    private static List<DefinitionFault> toNothing(
            Read file, CurrentDefinitions current, DefinitionRequest request, Set<Ref> inFiles) {
        List<DefinitionFault> faults = new ArrayList<>();
        references(file.tree(), new ArrayList<>(), (place, ref) -> {
            boolean there = current.id(ref.kind(), ref.slug()).isPresent();
            boolean comes = inFiles.contains(ref) && !request.leave().contains(ref.kind());
            if (!there && !comes) {
                faults.add(new DefinitionFault(
                        file.path(),
                        file.places().line(place),
                        String.join(".", place) + ": there is no " + ref.kind() + " " + ref.slug()
                                + ", neither here nor among the files"));
            }
        });
        return faults;
    }

    static void references(JsonNode node, List<String> place, java.util.function.BiConsumer<List<String>, Ref> found) {
        if (node instanceof ObjectNode object) {
            object.properties().forEach(member -> {
                List<String> deeper = new ArrayList<>(place);
                deeper.add(member.getKey());
                Optional<String> kind = ReferenceMembers.kindOf(member.getKey());
                JsonNode value = member.getValue();
                if (kind.isPresent() && value.isString()) {
                    found.accept(deeper, new Ref(kind.get(), value.asString()));
                } else if (kind.isPresent() && value.isArray()) {
                    value.forEach(item -> found.accept(deeper, new Ref(kind.get(), item.asString())));
                } else {
                    references(value, deeper, found);
                }
            });
        } else if (node.isArray()) {
            for (int at = 0; at < node.size(); at++) {
                List<String> deeper = new ArrayList<>(place);
                deeper.add(Integer.toString(at));
                references(node.get(at), deeper, found);
            }
        }
    }

    private static String state(CurrentDefinitions current) {
        TreeMap<Ref, CurrentDefinitions.Current> definitions = new TreeMap<>(current.definitions());
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            definitions.forEach((ref, one) ->
                    digest.update((ref + " " + one.id() + " " + one.name() + " " + one.latest() + " " + one.live())
                            .getBytes(StandardCharsets.UTF_8)));
            return HexFormat.of().formatHex(digest.digest());
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }
}
