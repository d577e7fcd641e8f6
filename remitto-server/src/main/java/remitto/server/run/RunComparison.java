package remitto.server.run;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.run.RunCounts;

/** Puts a manifest beside the one of its route that was sent before it, so that what is unusual stands out. */
@Component
public class RunComparison {
    private final Runs runs;
    private final RunHistory history;

    RunComparison(Runs runs, RunHistory history) {
        this.runs = runs;
        this.history = history;
    }

    /** One field in both manifests. */
    record FieldBeside(String field, long now, long before) {}

    /**
     * @param before number of the manifest sent before; absent when this is the first, and then nothing else is said
     * @param versions what is in service now and was not then, in words
     */
    public record Comparison(
            Optional<Long> before, Optional<RunCounts> counts, List<FieldBeside> fields, List<String> versions) {}

    public Comparison of(Run run) {
        Optional<Run> last = history.before(run.routeId(), run.id()).map(found -> runs.get(found.id()));
        return new Comparison(
                last.map(Run::id),
                last.map(Run::counts),
                last.map(found -> fields(run, found)).orElse(List.of()),
                last.map(found -> versions(run, found)).orElse(List.of()));
    }

    private static List<FieldBeside> fields(Run run, Run last) {
        Map<String, long[]> both = new LinkedHashMap<>();
        run.fieldCounts().forEach(one -> both.computeIfAbsent(one.field(), name -> new long[2])[0] = one.written());
        last.fieldCounts().forEach(one -> both.computeIfAbsent(one.field(), name -> new long[2])[1] = one.written());
        List<FieldBeside> fields = new ArrayList<>();
        both.forEach((field, counts) -> fields.add(new FieldBeside(field, counts[0], counts[1])));
        fields.sort((one, other) -> Long.compare(other.now() + other.before(), one.now() + one.before()));
        return fields;
    }

    private static List<String> versions(Run run, Run last) {
        List<String> versions = new ArrayList<>();
        differs("route", last.routeVersion(), run.routeVersion()).ifPresent(versions::add);
        differs("dataset", last.datasetVersion(), run.datasetVersion()).ifPresent(versions::add);
        differs("profile", last.profileVersion(), run.profileVersion()).ifPresent(versions::add);
        return versions;
    }

    private static Optional<String> differs(String what, int before, int now) {
        return before == now ? Optional.empty() : Optional.of(what + " version " + now + ", was " + before);
    }
}
