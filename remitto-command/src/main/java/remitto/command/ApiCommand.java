package remitto.command;

import java.util.concurrent.Callable;
import picocli.CommandLine.Mixin;

/** What every command has: which installation it is about, and how it says what it found. */
abstract class ApiCommand implements Callable<Integer> {
    private final Surroundings surroundings;

    @Mixin
    private Where where = new Where();

    @Mixin
    private Said said = new Said();

    ApiCommand(Surroundings surroundings) {
        this.surroundings = surroundings;
    }

    Surroundings surroundings() {
        return surroundings;
    }

    Where.Target target() {
        return where.target(surroundings.environment());
    }

    Api api() {
        return target().api();
    }

    Said said() {
        return said;
    }
}
