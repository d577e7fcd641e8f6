package remitto.server.rights.mark;

import java.util.Collection;
import java.util.Map;
import java.util.Optional;
import remitto.core.consent.ErasureMark;

/** The marks of one moment. Not safe to share between threads. */
public final class Marks {
    static final Marks NONE = new Marks(Map.of(), new byte[1]);

    private final Map<String, Long> erasures;
    private final ErasureMark mark;

    Marks(Map<String, Long> erasures, byte[] key) {
        this.erasures = erasures;
        this.mark = new ErasureMark(key);
    }

    /** True when nobody was ever erased, so that nothing needs to be looked at. */
    public boolean isEmpty() {
        return erasures.isEmpty();
    }

    /** The erasure that a record was marked by. */
    public Optional<Long> ofRecord(long dataset, String key) {
        return isEmpty() ? Optional.empty() : Optional.ofNullable(erasures.get(mark.ofRecord(dataset, key)));
    }

    /**
     * The erasure that one of some addresses was marked by.
     *
     * @param hashes of normalised addresses
     */
    public Optional<Long> ofAddresses(Collection<String> hashes) {
        return isEmpty()
                ? Optional.empty()
                : hashes.stream()
                        .map(hash -> erasures.get(mark.ofAddress(hash)))
                        .filter(java.util.Objects::nonNull)
                        .findFirst();
    }
}
