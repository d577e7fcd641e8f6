package remitto.server.destination;

import java.time.Clock;
import java.util.List;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.profile.Profile;
import remitto.connect.profile.ProfileReader;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;

/** Profiles and their versions. Those that ship are taken in before the first call when they changed. */
@Component
class Profiles implements SmartInitializingSingleton {
    private static final List<String> SHIPPED = List.of(
            "purser-crm.yaml", "lamplight-ads.yaml", "foghorn-chat.yaml", "webhook.yaml", "gangway-support.yaml");

    private final JdbcClient jdbc;
    private final ProfileReader reader;
    private final Clock clock;

    Profiles(JdbcClient jdbc, ProfileReader reader, Clock clock) {
        this.jdbc = jdbc;
        this.reader = reader;
        this.clock = clock;
    }

    record Numbered(int number, Profile profile) {}

    @Override
    public void afterSingletonsInstantiated() {
        SHIPPED.stream().map(ProfileReader::resource).forEach(this::takeIn);
    }

    private void takeIn(String body) {
        Profile profile = reader.read(body);
        jdbc.sql("""
                        insert into profile_version (profile, number, title, body, saved_at)
                        select :profile, coalesce(max(number), 0) + 1, :title, :body, :at from profile_version
                        where profile = :profile
                        having not exists (select 1 from profile_version v where v.profile = :profile and v.body = :body)
                        """)
                .param("profile", profile.profile())
                .param("title", profile.title())
                .param("body", body)
                .param("at", Rows.time(clock.instant()))
                .update();
    }

    List<Numbered> latest() {
        return jdbc.sql("""
                        select distinct on (profile) number, body from profile_version order by profile, number desc
                        """)
                .query((row, index) -> new Numbered(row.getInt("number"), reader.read(row.getString("body"))))
                .list();
    }

    Numbered latest(String profile) {
        return latest().stream()
                .filter(one -> one.profile().profile().equals(profile))
                .findFirst()
                .orElseThrow(() -> Problem.notFound("profile " + profile));
    }

    Profile version(String profile, int number) {
        return jdbc.sql("select body from profile_version where profile = ? and number = ?")
                .params(profile, number)
                .query((row, index) -> reader.read(row.getString("body")))
                .single();
    }
}
