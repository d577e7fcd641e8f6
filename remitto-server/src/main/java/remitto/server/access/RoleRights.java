package remitto.server.access;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import remitto.server.permission.Right;
import remitto.server.permission.Role;

/** Rights that a whole role has. */
@Component
class RoleRights {
    private final JdbcClient jdbc;

    RoleRights(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    Map<Role, List<Right>> all() {
        Map<Role, List<Right>> rights = new TreeMap<>();
        Arrays.stream(Role.values()).forEach(role -> rights.put(role, new ArrayList<>()));
        jdbc.sql("select role, may from role_right order by role, may").query(row -> {
            rights.get(Role.valueOf(row.getString("role"))).add(Right.valueOf(row.getString("may")));
        });
        return rights;
    }

    /** Roles that are not named keep what they have. */
    @Transactional
    void change(Map<Role, List<Right>> wanted) {
        wanted.forEach((role, rights) -> {
            jdbc.sql("delete from role_right where role = ?").param(role.name()).update();
            rights.stream().distinct().forEach(right -> jdbc.sql("insert into role_right (role, may) values (?, ?)")
                    .params(role.name(), right.name())
                    .update());
        });
    }
}
