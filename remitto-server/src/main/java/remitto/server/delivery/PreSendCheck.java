package remitto.server.delivery;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.core.cause.CauseKind;
import remitto.core.known.Fingerprint;
import remitto.core.known.KnownIndex;
import remitto.core.manifest.MaySend;
import remitto.core.manifest.Verdict;
import remitto.core.route.ShapedRecord;
import remitto.server.dataset.DatasetQueries;
import remitto.server.manifest.Line;
import remitto.server.planning.ChunkJudge;
import remitto.server.planning.ForbiddenRows;
import remitto.server.planning.MessageLimits;
import remitto.server.planning.SuppressedAddresses;
import remitto.server.route.BoundRoute;
import remitto.server.run.FirstWave;
import remitto.server.run.Runs;

/**
 * Looks once more, just before lines are sent, whether those they concern may still be sent to: a manifest may have waited for
 * somebody's word. What it sets aside is judged again when the route is prepared next.
 */
@Component
class PreSendCheck {
    /** How long what a source said of consent holds for a manifest that waits. */
    private static final Duration HOLDS = Duration.ofMinutes(15);

    private final Runs runs;
    private final DatasetQueries queries;
    private final ChunkJudge judge;
    private final ForbiddenRows forbiddenRows;
    private final SuppressedAddresses suppressed;
    private final MessageLimits limits;
    private final Outcomes outcomes;
    private final Clock clock;

    PreSendCheck(
            Runs runs,
            DatasetQueries queries,
            ChunkJudge judge,
            ForbiddenRows forbiddenRows,
            SuppressedAddresses suppressed,
            MessageLimits limits,
            Outcomes outcomes,
            Clock clock) {
        this.runs = runs;
        this.queries = queries;
        this.judge = judge;
        this.forbiddenRows = forbiddenRows;
        this.clock = clock;
        this.suppressed = suppressed;
        this.limits = limits;
        this.outcomes = outcomes;
    }

    /** At the lines of one run. Safe to share between threads. */
    Look at(BoundRoute route, long runId, int epoch) {
        return new Look(
                route, new Outcomes.Maker(runId, epoch, 0), runs.get(runId).startedAt());
    }

    final class Look {
        private final BoundRoute route;
        private final Outcomes.Maker maker;
        private final Instant readAt;
        private Optional<KnownIndex> readAnew = Optional.empty();

        private Look(BoundRoute route, Outcomes.Maker maker, Instant readAt) {
            this.route = route;
            this.maker = maker;
            this.readAt = readAt;
        }

        /**
         * Those of the lines that may go.
         *
         * @param wave is told of the others
         */
        List<Line> mayGo(List<Line> wanted, FirstWave wave) {
            List<Line> sending = wanted.stream().filter(Look::sends).toList();
            if (sending.isEmpty()) {
                return wanted;
            }
            Map<String, String> against = new HashMap<>();
            List<Line> doubtful = suppressed.mayDiffer(route, readAt) ? sending : withoutConsentNow(sending);
            forbidden(doubtful).forEach((key, why) -> against.put(key, "Since it was prepared: " + why));
            against.putAll(limits.reserve(route, maker.runId(), () -> messages(sending, against.keySet())));
            if (against.isEmpty()) {
                return wanted;
            }
            Settlement aside = new Settlement();
            sending.stream()
                    .filter(line -> against.containsKey(line.key()))
                    .forEach(line -> aside.forbidden(line, against.get(line.key())));
            outcomes.settle(route, maker, aside);
            wave.settled(aside.forbidden.size(), 0);
            return wanted.stream()
                    .filter(line -> !sends(line) || !against.containsKey(line.key()))
                    .toList();
        }

        private List<String> messages(List<Line> sending, Set<String> forbidden) {
            return sending.stream()
                    .filter(line -> line.cause().isNone()
                            && !MaySend.takesBack(route.route().spec(), line.fields()))
                    .map(Line::key)
                    .filter(key -> !forbidden.contains(key))
                    .toList();
        }

        private static boolean sends(Line line) {
            return line.verdict() != Verdict.REMOVED && !line.cause().is(CauseKind.LEFT);
        }

        /** Of the records that are known already, those that may be sent again with a file of everybody. */
        FileRows.MayStay known() {
            if (!suppressed.mayDiffer(route, readAt) && !waited()) {
                return (high, low) -> true;
            }
            KnownIndex forbidden = readAnew();
            return (high, low) -> forbidden.find(high, low) < 0;
        }

        private boolean waited() {
            return MaySend.asksConsent(route.route().spec())
                    && !readAt.isAfter(clock.instant().minus(HOLDS));
        }

        private List<Line> withoutConsentNow(List<Line> lines) {
            if (!waited()) {
                return List.of();
            }
            KnownIndex forbidden = readAnew();
            Fingerprint fingerprint = new Fingerprint();
            return lines.stream()
                    .filter(line -> {
                        long[] hash = fingerprint.key(line.key());
                        return forbidden.find(hash[0], hash[1]) >= 0;
                    })
                    .toList();
        }

        private synchronized KnownIndex readAnew() {
            KnownIndex read = readAnew.orElseGet(() -> forbiddenRows.read(route));
            readAnew = Optional.of(read);
            return read;
        }

        private Map<String, String> forbidden(List<Line> lines) {
            if (lines.isEmpty()) {
                return Map.of();
            }
            Map<String, ShapedRecord> now = judge.asTheyAre(
                    route,
                    queries.byKeys(
                            route.sourceId(),
                            route.dataset(),
                            lines.stream().map(Line::key).distinct().toList()));
            Map<String, String> against = new HashMap<>();
            for (Line line : lines) {
                Optional.ofNullable(now.get(line.key()))
                        .flatMap(record -> MaySend.against(line.fields(), record))
                        .ifPresent(why -> against.put(line.key(), why));
            }
            return against;
        }
    }
}
