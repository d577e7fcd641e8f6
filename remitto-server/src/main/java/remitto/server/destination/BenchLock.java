package remitto.server.destination;

import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;
import remitto.connect.profile.Profile;
import remitto.server.platform.Problem;

/**
 * Where a route in service writes, a call that is said to read must be known to: a text on the bench could call a
 * writing address a look-up.
 */
final class BenchLock {
    private BenchLock() {}

    private record Asking(String method, String path) {}

    /** @throws Problem if the text reads by a call that no reading call in service makes, and so may write */
    static void require(Profile text, Profile inService) {
        unknown(text, inService).ifPresent(asking -> {
            throw Problem.conflict("A route is in service here, and no reading call in service asks with " + asking
                    + ", so that it may write. Try it on a destination that no route writes to.");
        });
    }

    /** A reading call of the text that changes things, for all that is known, in words; empty when there is none. */
    private static Optional<String> unknown(Profile text, Profile inService) {
        Set<Asking> known = reading(inService);
        return reading(text).stream()
                .filter(one -> !one.method().equals("GET") && !known.contains(one))
                .map(one -> one.method() + " " + one.path())
                .findFirst();
    }

    private static Set<Asking> reading(Profile profile) {
        Set<Asking> calls = new LinkedHashSet<>();
        profile.check().ifPresent(one -> calls.add(new Asking(one.method(), one.path())));
        profile.accounts().ifPresent(one -> calls.add(new Asking(one.method(), one.path())));
        profile.find().ifPresent(one -> calls.add(new Asking(one.method(), one.path())));
        profile.list().ifPresent(one -> calls.add(new Asking(one.method(), one.path())));
        add(calls, profile.objects().method(), profile.objects().path());
        add(calls, profile.fields().method(), profile.fields().path());
        return calls;
    }

    private static void add(Set<Asking> calls, Optional<String> method, Optional<String> path) {
        path.ifPresent(place -> calls.add(new Asking(method.orElse("GET"), place)));
    }
}
