package remitto.core.audience;

import java.util.List;
import remitto.core.value.Value;

/** Somebody of whom nothing is known but events of one kind. */
record EventFacts(String kind, List<Facts.Event> all) implements Facts {
    @Override
    public Value attribute(String name) {
        return Value.EMPTY;
    }

    @Override
    public List<Event> events(String name) {
        return name.equals(kind) ? all : List.of();
    }

    @Override
    public boolean isMember(long audience) {
        return false;
    }

    @Override
    public Condition.Answer answer(String purpose, String channel) {
        return Condition.Answer.NOT_ASKED;
    }

    @Override
    public boolean hasRecordIn(long dataset) {
        return false;
    }

    @Override
    public boolean wasSent(long route, Condition.SentState state) {
        return false;
    }
}
