package remitto.demo.history;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** The stand-ins' desks, whose clocks go together. */
public record Desks(Desk purser, Desk lamplight, Desk foghorn, Desk gangway, Desk postbag) {
    void setClock(Optional<Instant> at) {
        List.of(purser, lamplight, foghorn, gangway, postbag).forEach(desk -> desk.setClock(at));
    }
}
