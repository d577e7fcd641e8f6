package remitto.connect.source;

/** Tells whoever may end a reading before its end. */
@FunctionalInterface
public interface Readers {
    /** Nobody ends a reading. */
    Readers NOBODY = cancel -> () -> {};

    /**
     * @param cancel ends it, from any thread
     * @return closed when the reading is over
     */
    Over begin(Runnable cancel);

    /** Closed when a reading is over. */
    interface Over extends AutoCloseable {
        @Override
        void close();
    }
}
