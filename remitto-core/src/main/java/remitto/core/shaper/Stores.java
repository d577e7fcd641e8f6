package remitto.core.shaper;

import java.util.Optional;

/** What shapers need besides the value: tables and keys kept elsewhere, in the versions a route is pinned to. */
public interface Stores {
    Optional<CrosswalkTable> crosswalk(long id);

    /** The bytes of a named key for keyed hashes. */
    Optional<byte[]> key(String name);

    /** Knows of nothing. */
    Stores NONE = new Stores() {
        @Override
        public Optional<CrosswalkTable> crosswalk(long id) {
            return Optional.empty();
        }

        @Override
        public Optional<byte[]> key(String name) {
            return Optional.empty();
        }
    };
}
