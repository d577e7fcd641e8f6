package remitto.server.access;

import java.security.Principal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;

@RestController
@RequestMapping("/api/users")
class UserController {
    private static final int SHORTEST_PASSWORD = 10;

    private final Users users;
    private final Journal journal;

    UserController(Users users, Journal journal) {
        this.users = users;
        this.journal = journal;
    }

    record NewUser(String email, String name, Role role, String password) {}

    @GetMapping
    List<Users.User> users() {
        return users.all();
    }

    @PostMapping
    Users.User add(@RequestBody NewUser wanted, Principal who) {
        if (wanted.password().length() < SHORTEST_PASSWORD) {
            throw Problem.invalid("A password has at least " + SHORTEST_PASSWORD + " characters.");
        }
        Users.User user = users.add(wanted.email(), wanted.name(), wanted.role(), wanted.password());
        journal.write(
                who.getName(),
                "added user",
                new Journal.Subject("user", user.id(), user.name()),
                user.role().name());
        return user;
    }
}
