package remitto.server.destination;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.profile.Profile;
import remitto.connect.profile.Setup;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** What must have been done in a tool before it can be used, found out by calls or confirmed by a person. */
@Component
class Prerequisites {
    private final ActorNames names;
    private final JdbcClient jdbc;
    private final Connections connections;
    private final Clock clock;

    Prerequisites(ActorNames names, JdbcClient jdbc, Connections connections, Clock clock) {
        this.names = names;
        this.jdbc = jdbc;
        this.connections = connections;
        this.clock = clock;
    }

    /** How a prerequisite stands. */
    enum PrerequisiteState {
        MET,
        NOT_MET,
        /** The call that would tell failed. */
        UNKNOWN,
        /** A person says so. */
        TICKED,
        /** A person has to see to it. */
        OPEN
    }

    /**
     * A requirement of a tool, and whether it is met.
     *
     * @param why what does not work without it, or blank
     * @param lost what is lost without it, where it can be left out; or blank
     * @param detail what the tool says, or who ticked it off
     */
    record PrerequisiteView(
            String name,
            String title,
            String why,
            String lost,
            PrerequisiteState state,
            String detail,
            Optional<Instant> at) {}

    private record Tick(String by, Instant at) {}

    List<PrerequisiteView> of(long destinationId) {
        var connection = connections.open(destinationId);
        Map<String, Tick> ticks = ticks(destinationId);
        return connection.profile().prerequisites().orElse(List.of()).stream()
                .map(one -> one.check()
                        .map(ask -> asked(connection.setup(), one, ask))
                        .orElseGet(() -> byHand(one, Optional.ofNullable(ticks.get(one.name())))))
                .toList();
    }

    private PrerequisiteView asked(Setup setup, Profile.Prerequisite one, Profile.Ask ask) {
        try {
            Setup.Found found = setup.ask(ask);
            String there =
                    found.there().isEmpty() ? "The tool says nothing about it." : "The tool says: " + found.there();
            return view(
                    one,
                    found.met() ? PrerequisiteState.MET : PrerequisiteState.NOT_MET,
                    there,
                    Optional.of(clock.instant()));
        } catch (DestinationProblem e) {
            return view(one, PrerequisiteState.UNKNOWN, String.valueOf(e.getMessage()), Optional.of(clock.instant()));
        }
    }

    private static PrerequisiteView byHand(Profile.Prerequisite one, Optional<Tick> tick) {
        return view(
                one,
                tick.isPresent() ? PrerequisiteState.TICKED : PrerequisiteState.OPEN,
                tick.map(Tick::by).orElse("It cannot be checked by a call. Confirm it when it is met."),
                tick.map(Tick::at));
    }

    private static PrerequisiteView view(
            Profile.Prerequisite one, PrerequisiteState state, String detail, Optional<Instant> at) {
        return new PrerequisiteView(
                one.name(), one.title(), one.why().orElse(""), one.lost().orElse(""), state, detail, at);
    }

    private Map<String, Tick> ticks(long destinationId) {
        Map<String, Tick> ticks = new HashMap<>();
        jdbc.sql("select name, ticked_by, ticked_at from prerequisite_tick where destination_id = ?")
                .param(destinationId)
                .query(row -> {
                    ticks.put(
                            row.getString("name"),
                            new Tick(names.of(row.getString("ticked_by")), Rows.time(row, "ticked_at")));
                });
        return ticks;
    }

    void tick(long destinationId, String name, boolean ticked, String who) {
        connections.open(destinationId).profile().prerequisites().orElse(List.of()).stream()
                .filter(one -> one.name().equals(name) && one.check().isEmpty())
                .findFirst()
                .orElseThrow(() -> Problem.invalid("This cannot be confirmed manually: " + name + "."));
        jdbc.sql("delete from prerequisite_tick where destination_id = ? and name = ?")
                .params(destinationId, name)
                .update();
        if (ticked) {
            jdbc.sql("insert into prerequisite_tick (destination_id, name, ticked_by, ticked_at) values (?, ?, ?, ?)")
                    .params(destinationId, name, who, Rows.time(clock.instant()))
                    .update();
        }
    }
}
