package remitto.server.definition;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.source.SourceProblem;
import remitto.server.definition.DefinitionPlan.Act;
import remitto.server.definition.DefinitionPlans.Prepared;
import remitto.server.definition.DefinitionPlans.Step;
import remitto.server.platform.Problem;
import tools.jackson.databind.node.LongNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Applies files: all of them, or none. Everything is saved and put in service in one transaction, by the same ways as from a page, so
 * that what a page refuses is refused here; what needs a connection outside follows once that is done.
 */
@Component
class DefinitionApplying {
    private static final Logger LOG = LoggerFactory.getLogger(DefinitionApplying.class);

    private final DefinitionPlans plans;
    private final DefinitionNames names;
    private final DefinitionText text;
    private final TransactionTemplate transaction;
    private final JdbcClient jdbc;

    DefinitionApplying(
            DefinitionPlans plans,
            DefinitionNames names,
            DefinitionText text,
            TransactionTemplate transaction,
            JdbcClient jdbc) {
        this.plans = plans;
        this.names = names;
        this.text = text;
        this.transaction = transaction;
        this.jdbc = jdbc;
    }

    /**
     * @param keep whether what was done stays; otherwise it is only seen whether it could be
     * @throws Problem naming each file that something is wrong with; nothing is changed then
     */
    DefinitionPlan apply(DefinitionRequest request, String who, boolean keep) {
        List<Runnable> later = new ArrayList<>();
        DefinitionPlan done = transaction.execute(status -> {
            jdbc.sql("select pg_advisory_xact_lock(hashtext('definitions'))")
                    .query((row, number) -> true)
                    .single();
            Prepared prepared = plans.plan(request);
            refuse(request, prepared.plan());
            new Applied(request, prepared, who, later).all();
            if (!keep) {
                status.setRollbackOnly();
            }
            return prepared.plan();
        });
        if (keep) {
            later.forEach(DefinitionApplying::follow);
        }
        return done;
    }

    private static void refuse(DefinitionRequest request, DefinitionPlan plan) {
        if (!plan.faults().isEmpty()) {
            List<DefinitionFault> faults = plan.faults();
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    faults.get(0) + (faults.size() > 1 ? "; and " + (faults.size() - 1) + " more" : "")
                            + ". Nothing was changed.",
                    faults.stream()
                            .map(fault -> new Problem.Detail(fault.path() + ":" + fault.line(), fault.message()))
                            .toList());
        }
        request.state().filter(seen -> !seen.equals(plan.state())).ifPresent(seen -> {
            throw Problem.conflict(
                    "A definition was changed here since the plan was made. Nothing was changed; make the plan again.");
        });
    }

    /** What fails here is written down with what it is about, and can be done again from its page. */
    private static void follow(Runnable work) {
        try {
            work.run();
        } catch (Problem | DataAccessException | IllegalStateException e) {
            LOG.warn("What follows applied definitions failed: {}", e.getMessage());
        }
    }

    /** One application of files, under way. */
    private final class Applied {
        private final DefinitionRequest request;
        private final Prepared prepared;
        private final String who;
        private final List<Runnable> later;
        private final Map<Ref, String> fresh = new HashMap<>();

        Applied(DefinitionRequest request, Prepared prepared, String who, List<Runnable> later) {
            this.request = request;
            this.prepared = prepared;
            this.who = who;
            this.later = later;
        }

        void all() {
            prepared.steps()
                    .forEach(step -> named(
                            step.file().path(), () -> take(step, step.file().kind())));
            prepared.removals()
                    .forEach(one ->
                            named(DefinitionPlans.path(one.kind(), prepared.current(), one.id()), () -> one.kind()
                                    .remove(one.id(), who)));
        }

        private <T extends Record> void take(Step step, DefinitionKind<T> kind) {
            T content = text.content(kind, withIds(step.file().tree()));
            DefinitionKind.Change<T> change = new DefinitionKind.Change<>(
                    content,
                    step.file().slug(),
                    who,
                    request.note(),
                    request.secrets().getOrDefault(step.file().path(), Map.of()),
                    later::add);
            String id = step.there().map(CurrentDefinitions.Current::id).orElse("");
            if (step.act() == Act.ADD) {
                id = kind.add(change);
                names.give(kind.kind(), id, step.file().slug());
                fresh.put(step.file().ref(), id);
            } else if (step.act() == Act.CHANGE) {
                kind.change(id, change);
            }
            if (kind.isVersioned() && request.inService()) {
                kind.putInService(id, change);
            }
        }

        private ObjectNode withIds(ObjectNode tree) {
            return (ObjectNode) ReferenceMembers.replaced(
                    tree, (kind, slug) -> LongNode.valueOf(Long.parseLong(id(new Ref(kind, slug.asString())))));
        }

        private String id(Ref ref) {
            String known = fresh.get(ref);
            return known != null
                    ? known
                    : prepared.current()
                            .id(ref.kind(), ref.slug())
                            .orElseThrow(() -> Problem.invalid("There is no " + ref.kind() + " " + ref.slug() + "."));
        }

        private void named(String path, Runnable work) {
            try {
                work.run();
            } catch (Problem problem) {
                throw new Problem(
                        problem.status(),
                        path + ": " + problem.getMessage() + " Nothing was changed.",
                        problem.details().stream()
                                .map(detail -> new Problem.Detail(path + " " + detail.where(), detail.message()))
                                .toList());
            } catch (IllegalArgumentException | SourceProblem | DestinationProblem e) {
                throw Problem.invalid(path + ": " + e.getMessage() + " Nothing was changed.");
            } catch (DuplicateKeyException e) {
                throw Problem.conflict(path + ": something with this name exists already. Nothing was changed.");
            }
        }
    }
}
