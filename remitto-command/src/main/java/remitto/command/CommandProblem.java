package remitto.command;

/** What stops a command, told so that a person can act on it. */
final class CommandProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final int exit;

    CommandProblem(int exit, String message) {
        super(message);
        this.exit = exit;
    }

    int exit() {
        return exit;
    }
}
