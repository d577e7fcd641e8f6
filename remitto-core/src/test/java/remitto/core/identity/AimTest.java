package remitto.core.identity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.quality.Quality;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.Expected;
import remitto.core.identity.rule.MatchRules.TargetPrecision;
import remitto.core.identity.rule.MatchRules.Thresholds;
import remitto.core.identity.rule.ResolutionRules;

/** Thresholds that follow from the precision that is asked for, and from how many pairs somebody looks at. */
class AimTest {
    private static final TargetPrecision AIM = new TargetPrecision(0.995, 200);

    private static Village village;
    private static Resolution resolution;

    @BeforeAll
    static void join() {
        village = Village.of(6_000, 12, true);
        resolution = Resolution.of(village.table(), rules(AIM), new MatchOverrides());
    }

    private static ResolutionRules rules(TargetPrecision aim) {
        return ResolutionRules.usual(Village.ATTRIBUTES).thresholds(new Thresholds(90, 80, Optional.of(aim)));
    }

    @Test
    void thresholdsFollow() {
        Links links = resolution.found().links();
        Thresholds thresholds = resolution.thresholds();
        assertThat(Expected.from(links, thresholds.join()).precision()).isGreaterThanOrEqualTo(AIM.precision());
        assertThat(links.size())
                .as("joined, and asked about")
                .isEqualTo(links.from(thresholds.ask()).size());
        assertThat(links.size() - links.from(thresholds.join()).size()).isBetween(1, AIM.asked());
        assertThat(thresholds.aim()).contains(AIM);
    }

    /** It is what is expected, not what is: within a hundredth of it here. */
    @Test
    void whatIsJoinedIsAboutAsRight() {
        Quality quality = Quality.of(resolution.groups().group(), village.truth(resolution.table()));
        assertThat(quality.precision()).isCloseTo(AIM.precision(), within(0.01));
        assertThat(quality.recall()).isGreaterThan(0.9);
    }

    @Test
    void whoAsksForMoreJoinsLess() {
        Resolution surer =
                Resolution.of(village.table(), rules(new TargetPrecision(0.9995, 200)), new MatchOverrides());
        assertThat(surer.thresholds().join())
                .isGreaterThan(resolution.thresholds().join());
        assertThat(surer.groups().persons()).isGreaterThan(resolution.groups().persons());
    }

    /** They stay as they are until weights are estimated again, so that persons do not change without a reason. */
    @Test
    void weightsKeepTheThresholdsThatCameWithThem() {
        Weights weights = resolution.found().estimated();
        Resolution given =
                Resolution.of(village.table(), rules(new TargetPrecision(0.6, 1)), new MatchOverrides(), weights);
        assertThat(given.thresholds().join()).isEqualTo(resolution.thresholds().join());
        assertThat(given.groups().group()).isEqualTo(resolution.groups().group());
    }

    @Test
    void judgingOnlyWhatChangedComesToTheSame() {
        RecordTable table = village.table();
        Resolution again = Resolution.again(
                table,
                rules(AIM),
                new MatchOverrides(),
                resolution.found().estimated(),
                Earlier.of(table, resolution, Set.of()));
        assertThat(again.found().compared()).isZero();
        assertThat(again.groups().group()).isEqualTo(resolution.groups().group());
        assertThat(again.thresholds()).isEqualTo(resolution.thresholds());
    }

    /** Whoever states thresholds has them, and no weights carry others. */
    @Test
    void whatIsStatedStays() {
        ResolutionRules stated = ResolutionRules.usual(Village.ATTRIBUTES).thresholds(new Thresholds(6, 3));
        Resolution joined = Resolution.of(village.table(), stated, new MatchOverrides());
        assertThat(joined.thresholds()).isEqualTo(new Thresholds(6, 3));
        assertThat(joined.found().estimated().cuts()).isEmpty();
        Weights withCuts = resolution.found().estimated();
        assertThat(Resolution.of(village.table(), stated, new MatchOverrides(), withCuts)
                        .thresholds())
                .isEqualTo(new Thresholds(6, 3));
    }
}
