package remitto.core.fileset;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Decides which files are read: those that are new or changed and are no longer being written, from the oldest to the newest. */
public final class FilesToRead {
    /** A file that has been as it is for this long is not being written any more. */
    public static final Duration QUIET = Duration.ofSeconds(30);

    private final FileSetDefinition definition;
    private final FilePattern pattern;
    private final int revision;
    private final Instant now;
    private final boolean whole;

    /** @param revision of the definition */
    public FilesToRead(FileSetDefinition definition, int revision, Instant now) {
        this(definition, revision, now, false);
    }

    /**
     * @param revision of the definition
     * @param whole whether a file that is listed is never written to any more
     */
    public FilesToRead(FileSetDefinition definition, int revision, Instant now, boolean whole) {
        this.whole = whole;
        this.definition = definition;
        this.pattern = new FilePattern(definition.pattern());
        this.revision = revision;
        this.now = now;
    }

    /** What is done about a file. */
    public enum Act {
        READ,
        /** It may still be written to. */
        WAIT,
        /** It was read, or cannot be read, as it is. */
        NOTHING,
        /** A newer file is the whole. */
        PASS_OVER
    }

    /** A file, and what is done about it. */
    public record Step(ListedFile file, Act act) {}

    /** @return a step for every listed file that the pattern names, in the order in which they are read */
    public List<Step> steps(Collection<ListedFile> listed, Collection<KnownFile> known) {
        Map<String, KnownFile> byPath =
                known.stream().collect(Collectors.toMap(one -> one.file().path(), Function.identity()));
        List<Step> steps = listed.stream()
                .filter(file -> pattern.matches(file.path()) && !isPart(file.path()))
                .sorted(ListedFile.BY_AGE)
                .map(file -> new Step(file, act(file, Optional.ofNullable(byPath.get(file.path())))))
                .toList();
        return definition.several() instanceof SeveralFiles.NewestIsWhole ? newest(steps, known) : steps;
    }

    /** Names that programs give to files they are still writing. Common practice, no source. */
    private boolean isPart(String path) {
        String name = path.substring(path.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT);
        boolean part = name.startsWith(".")
                || name.endsWith(".part")
                || name.endsWith(".partial")
                || name.endsWith(".filepart")
                || name.endsWith(".tmp");
        String wanted = definition.pattern().toLowerCase(Locale.ROOT);
        return part && !wanted.endsWith(name.substring(Math.max(0, name.lastIndexOf('.'))));
    }

    private Act act(ListedFile file, Optional<KnownFile> known) {
        Optional<KnownFile> same = known.filter(one -> one.file().looksLike(file));
        if (same.filter(one -> isSettled(one)).isPresent()) {
            return Act.NOTHING;
        }
        boolean quiet = whole
                || !file.modifiedAt().isAfter(now.minus(QUIET))
                || same.filter(one -> !one.seenAt().isAfter(now.minus(QUIET))).isPresent();
        return quiet ? Act.READ : Act.WAIT;
    }

    private boolean isSettled(KnownFile known) {
        return (known.state() == KnownFile.State.READ || known.state() == KnownFile.State.FAILED)
                && known.revision() == revision;
    }

    /** The newest that can be read; nothing older than what was read already takes its place. */
    private List<Step> newest(List<Step> steps, Collection<KnownFile> known) {
        Optional<ListedFile> whole = known.stream()
                .filter(one -> one.state() == KnownFile.State.READ)
                .map(KnownFile::file)
                .max(ListedFile.BY_AGE);
        List<Step> wanted = new ArrayList<>();
        boolean found = false;
        for (Step step : steps.stream()
                .sorted(Comparator.comparing(Step::file, ListedFile.BY_AGE).reversed())
                .toList()) {
            boolean older = whole.filter(one -> ListedFile.BY_AGE.compare(step.file(), one) < 0)
                    .isPresent();
            if (found || older) {
                wanted.add(new Step(step.file(), Act.PASS_OVER));
            } else {
                wanted.add(step);
                boolean read = whole.filter(one -> one.looksLike(step.file())).isPresent();
                found = step.act() == Act.READ || read;
            }
        }
        return wanted;
    }
}
