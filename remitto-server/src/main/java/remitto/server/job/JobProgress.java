package remitto.server.job;

/** Told by a job as it goes on. */
public interface JobProgress {
    /** Nobody is told. */
    JobProgress NONE = new JobProgress() {
        @Override
        public void doing(String words) {
            // nobody looks
        }

        @Override
        public void rows(int more) {
            // nobody looks
        }
    };

    /**
     * @param words for whoever waits
     * @throws JobCancelled if the job is to end
     */
    void doing(String words);

    /**
     * @param more rows that were gone through since
     * @throws JobCancelled if the job is to end
     */
    void rows(int more);
}
