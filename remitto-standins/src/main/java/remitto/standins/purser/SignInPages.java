package remitto.standins.purser;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import remitto.standins.page.Html;

/** Where a person signs in and allows a program to act for them (RFC 6749, section 4.1, with RFC 7636). */
final class SignInPages {
    private static final List<String> PASSED_ON =
            List.of("client_id", "redirect_uri", "state", "code_challenge", "code_challenge_method", "response_type");

    private final Tokens tokens;
    private final PurserFrame frame;

    SignInPages(Tokens tokens, PurserFrame frame) {
        this.tokens = tokens;
        this.frame = frame;
    }

    void mount(RoutesConfig routes) {
        routes.get("/oauth/authorize", context -> context.html(page(context, "")));
        routes.post("/oauth/authorize", this::decide);
        routes.delete("/control/logins", context -> {
            tokens.forgetLogins();
            context.status(204);
        });
    }

    private static String parameter(Context context, String name) {
        return Optional.ofNullable(context.formParam(name))
                .or(() -> Optional.ofNullable(context.queryParam(name)))
                .orElse("");
    }

    /** What is wrong with the question; a person is not sent back to an address that is not to be trusted. */
    private String fault(Context context) {
        if (!tokens.knows(parameter(context, "client_id"))) {
            return "No program is known here under this client id.";
        }
        try {
            URI back = URI.create(parameter(context, "redirect_uri"));
            if (!List.of("127.0.0.1", "localhost").contains(String.valueOf(back.getHost()))) {
                return "Programs here are sent back to this machine only.";
            }
        } catch (IllegalArgumentException e) {
            return "The address to go back to is not one.";
        }
        if (!parameter(context, "response_type").equals("code")
                || !parameter(context, "code_challenge_method").equals("S256")
                || parameter(context, "code_challenge").isEmpty()) {
            return "Purser gives codes only, and only with a challenge by S256.";
        }
        return "";
    }

    private String page(Context context, String problem) {
        String fault = fault(context);
        if (!fault.isEmpty()) {
            return frame.page("Sign in", "<h1>Sign in</h1><p role=alert><b>%s</b></p>".formatted(fault));
        }
        StringBuilder hidden = new StringBuilder();
        PASSED_ON.forEach(name -> hidden.append(
                "<input type=hidden name=%s value=\"%s\">".formatted(name, Html.escape(parameter(context, name)))));
        return frame.page("Sign in", """
                <h1>Sign in to let %s act for you</h1>
                <p>It will read and write what you may read and write, until you sign it out.</p>%s
                <form method=post action="/oauth/authorize">%s
                <p><label>E-mail <input name=email type=email size=32 autocomplete=username value="%s"></label></p>
                <p><label>Password <input name=password type=password size=24 autocomplete=current-password></label></p>
                <p><button name=answer value=allow>Sign in and allow</button>
                <button name=answer value=refuse>Refuse</button></p></form>
                <p class=quiet>For trying out: runa.vik@halvorn.example with harbour-5512 may write;
                odd.berge@halvorn.example with lighthouse-9083 may only read.</p>
                """.formatted(
                        Html.escape(parameter(context, "client_id")),
                        problem.isEmpty() ? "" : "<p role=alert><b>%s</b></p>".formatted(problem),
                        hidden,
                        Html.escape(parameter(context, "email"))));
    }

    private void decide(Context context) {
        if (!fault(context).isEmpty()) {
            context.status(400).html(page(context, ""));
            return;
        }
        if (parameter(context, "answer").equals("refuse")) {
            back(context, "error", "access_denied");
            return;
        }
        Logins.with(parameter(context, "email"), parameter(context, "password"))
                .ifPresentOrElse(
                        login -> back(
                                context,
                                "code",
                                tokens.code(
                                        new Tokens.Asked(
                                                parameter(context, "client_id"),
                                                parameter(context, "redirect_uri"),
                                                parameter(context, "code_challenge")),
                                        login)),
                        () -> context.html(page(context, "The e-mail or the password is wrong.")));
    }

    private static void back(Context context, String name, String value) {
        String to = parameter(context, "redirect_uri");
        context.redirect(to + (to.contains("?") ? "&" : "?") + name + "=" + value + "&state="
                + URLEncoder.encode(parameter(context, "state"), StandardCharsets.UTF_8));
    }
}
