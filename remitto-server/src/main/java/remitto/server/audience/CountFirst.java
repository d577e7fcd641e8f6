package remitto.server.audience;

import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.planning.BeforePreparation;
import remitto.server.platform.Problem;

/** Counts an audience before a route that sends it prepares its manifest, unless somebody said that it need not. */
@Component
class CountFirst implements BeforePreparation {
    private final Audiences audiences;
    private final Memberships memberships;
    private final JdbcClient jdbc;

    CountFirst(Audiences audiences, Memberships memberships, JdbcClient jdbc) {
        this.audiences = audiences;
        this.memberships = memberships;
        this.jdbc = jdbc;
    }

    @Override
    public void prepare(long routeId) {
        Optional<Long> audience = jdbc.sql("""
                        select a.id from route r join dataset d on d.id = r.dataset_id join audience a on a.id = d.audience_id
                        where r.id = ? and a.count_first and a.live_version is not null
                        """).param(routeId).query(Long.class).optional();
        audience.map(audiences::get).ifPresent(one -> {
            Memberships.MemberCount count = memberships.count(one, "a route that sends it");
            if (!count.problem().isEmpty()) {
                throw Problem.conflict(one.name() + " could not be counted: " + count.problem());
            }
        });
    }
}
