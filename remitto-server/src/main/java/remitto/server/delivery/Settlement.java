package remitto.server.delivery;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import remitto.server.manifest.Line;

/** What came of the lines of one call, to be written down in one step. Not safe to share between threads. */
public final class Settlement {
    final List<Acknowledged> acknowledged = new ArrayList<>();
    final List<Other> refused = new ArrayList<>();
    final List<Other> movedOn = new ArrayList<>();
    /** Nothing may be sent to them, as was found before the call. */
    final List<Other> forbidden = new ArrayList<>();

    final List<Other> unknown = new ArrayList<>();
    /** Lines that did not take effect and go again in a call of the same number. */
    final List<Line> again = new ArrayList<>();
    /** Lines that did not take effect and are planned as before. */
    final List<Line> planned = new ArrayList<>();

    record Acknowledged(Line line, String remoteId, String answer) {}

    /** @param reason in words */
    record Other(Line line, String reason) {}

    /** The same, but for some lines that took effect. */
    Settlement without(Predicate<Line> taken) {
        Settlement rest = new Settlement();
        acknowledged.stream().filter(one -> !taken.test(one.line())).forEach(rest.acknowledged::add);
        rest.refused.addAll(refused);
        rest.movedOn.addAll(movedOn);
        rest.forbidden.addAll(forbidden);
        rest.unknown.addAll(unknown);
        rest.again.addAll(again);
        rest.planned.addAll(planned);
        return rest;
    }

    public void acknowledged(Line line, String remoteId, String answer) {
        acknowledged.add(new Acknowledged(line, remoteId, answer));
    }

    void refused(Line line, String reason) {
        refused.add(new Other(line, reason));
    }

    public void movedOn(Line line, String reason) {
        movedOn.add(new Other(line, reason));
    }

    void forbidden(Line line, String reason) {
        forbidden.add(new Other(line, reason));
    }

    void unknown(Line line, String reason) {
        unknown.add(new Other(line, reason));
    }
}
