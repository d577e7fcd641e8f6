package remitto.standins.ticketshop;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import remitto.standins.page.Html;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The ticket shop, running on a loopback port: people sign up at its page, and it calls whoever wants to know, until that is answered. */
public final class TicketShop implements AutoCloseable {
    private static final Duration BETWEEN = Duration.ofMillis(500);
    private static final Duration PATIENCE = Duration.ofSeconds(15);
    private static final List<String> PORTS = List.of("Tarva", "Ytre Holm", "Sandvær", "Brenn", "Lysøy");

    private final JsonMapper json = JsonMapper.builder().build();
    private final Clock clock = Clock.systemUTC();
    private final HttpClient http =
            HttpClient.newBuilder().connectTimeout(PATIENCE).build();
    private final ScheduledExecutorService caller = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "ticket-shop");
        thread.setDaemon(true);
        return thread;
    });
    private final ShopFrame frame = new ShopFrame();
    private final ShopBook book;
    private final Javalin app;

    private TicketShop(int port, Path data) {
        book = new ShopBook(data, json);
        app = Javalin.create(config -> {
                    config.startup.showJavalinBanner = false;
                    config.jetty.host = "127.0.0.1";
                    mount(config.routes);
                })
                .start(port);
        caller.scheduleWithFixedDelay(this::tell, 0, BETWEEN.toMillis(), TimeUnit.MILLISECONDS);
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static TicketShop start(int port, Path data) {
        return new TicketShop(port, data);
    }

    public int port() {
        return app.port();
    }

    private void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(page(context.queryParam("problem"))));
        routes.post("/sign-ups", this::signUp);
        routes.get("/control/sign-ups", context -> answer(context, book.all()));
        routes.post("/control/sign-ups", context -> {
            for (JsonNode one : json.readTree(context.bodyAsBytes())) {
                book.add(json.treeToValue(one, SignUp.class));
            }
            context.status(204);
        });
        routes.post("/control/listener", context -> {
            JsonNode body = json.readTree(context.bodyAsBytes());
            URI url = URI.create(body.get("url").asString());
            book.tell(new ShopBook.Listener(
                    url.getScheme() + "://" + url.getAuthority(),
                    url.getPath(),
                    body.get("secret").asString()));
            context.status(204);
        });
        routes.post("/control/origin", context -> {
            book.moved(context.body().strip());
            context.status(204);
        });
        routes.delete("/control/data", context -> {
            book.clear();
            context.status(204);
        });
    }

    private void answer(Context context, Object body) {
        context.contentType("application/json").result(json.writeValueAsBytes(body));
    }

    private void signUp(Context context) {
        String mail = field(context, "mail");
        if (!mail.matches("[^@\\s]+@[^@\\s]+") || field(context, "given").isEmpty()) {
            context.redirect("/?problem=1");
            return;
        }
        book.add(new SignUp(
                "",
                Instant.now(clock),
                field(context, "given"),
                field(context, "family"),
                mail,
                field(context, "port"),
                !field(context, "newsletter").isEmpty(),
                false));
        context.redirect("/");
    }

    private static String field(Context context, String name) {
        return Optional.ofNullable(context.formParam(name)).orElse("").strip();
    }

    /** One after another, in the order in which they came; whoever does not answer is called again. */
    private void tell() {
        Optional<ShopBook.Listener> listener = book.listener();
        if (listener.isEmpty()) {
            return;
        }
        URI address = URI.create(listener.get().origin() + listener.get().path());
        SignedCall call = new SignedCall(address, listener.get().secret());
        for (SignUp one : book.all()) {
            if (!one.told()) {
                if (!isTaken(call.of("evt_" + one.no(), body(one), Instant.now(clock)))) {
                    return;
                }
                book.told(one.no());
            }
        }
    }

    private boolean isTaken(HttpRequest request) {
        try {
            return http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode() / 100 == 2;
        } catch (IOException e) {
            return false;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    private String body(SignUp one) {
        return json.writeValueAsString(Map.of(
                "type",
                "person.signed_up",
                "at",
                one.at().toString(),
                "person",
                Map.of(
                        "no", one.no(),
                        "given", one.given(),
                        "family", one.family(),
                        "mail", one.mail(),
                        "port", one.port(),
                        "newsletter", one.newsletter())));
    }

    private String page(@org.jspecify.annotations.Nullable String problem) {
        StringBuilder html = new StringBuilder("<h1>Sign up</h1>");
        if (problem != null) {
            html.append("<p role=\"alert\">Enter your first name and an e-mail address.</p>");
        }
        html.append("<form method=\"post\" action=\"/sign-ups\">");
        input(html, "First name", "given");
        input(html, "Last name", "family");
        input(html, "E-mail", "mail");
        html.append("<p><label for=\"port\">Home port</label><select id=\"port\" name=\"port\">");
        PORTS.forEach(port -> html.append("<option>").append(Html.escape(port)).append("</option>"));
        html.append("</select></p><p><input type=\"checkbox\" id=\"newsletter\" name=\"newsletter\">")
                .append(" <label for=\"newsletter\">Send me letters</label></p><p><button>Sign up</button></p></form>");
        List<SignUp> all = book.all();
        html.append("<h1>")
                .append(all.size())
                .append(" signed up</h1><table><tr><th>No</th><th>When</th><th>Name</th>")
                .append("<th>E-mail</th><th>Letters</th><th>Told</th></tr>");
        for (int i = all.size() - 1; i >= Math.max(0, all.size() - 50); i--) {
            SignUp one = all.get(i);
            for (String cell : List.of(
                    one.no(),
                    Html.time(one.at()),
                    one.given() + " " + one.family(),
                    one.mail(),
                    one.newsletter() ? "yes" : "no",
                    one.told() ? "yes" : "not yet")) {
                html.append(cell.equals(one.no()) ? "<tr>" : "")
                        .append("<td>")
                        .append(Html.escape(cell))
                        .append("</td>");
            }
            html.append("</tr>");
        }
        return frame.page("Sign up", html.append("</table>").toString());
    }

    private static void input(StringBuilder html, String label, String name) {
        html.append("<p><label for=\"%s\">%s</label><input id=\"%s\" name=\"%s\" autocomplete=\"off\"></p>"
                .formatted(name, label, name, name));
    }

    @Override
    public void close() {
        caller.shutdownNow();
        app.stop();
    }
}
