package remitto.standins.purser;

import io.javalin.http.Context;
import java.util.Optional;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/** Answers programs that ask for tokens (RFC 6749, sections 5.1 and 5.2). */
final class TokenDesk {
    private final Tokens tokens;
    private final ObjectMapper json;

    TokenDesk(Tokens tokens, ObjectMapper json) {
        this.tokens = tokens;
        this.json = json;
    }

    void answer(Context context) {
        Optional<String> client = tokens.client(
                Optional.ofNullable(context.header("Authorization")).orElse(""));
        if (client.isEmpty()) {
            refuse(context, 401, "invalid_client");
            return;
        }
        switch (form(context, "grant_type")) {
            case "client_credentials" -> give(context, Optional.of(tokens.toClient(client.get())));
            case "authorization_code" ->
                give(
                        context,
                        tokens.byCode(
                                client.get(),
                                form(context, "code"),
                                form(context, "redirect_uri"),
                                form(context, "code_verifier")));
            case "refresh_token" -> give(context, tokens.byRefresh(client.get(), form(context, "refresh_token")));
            default -> refuse(context, 400, "unsupported_grant_type");
        }
    }

    private void give(Context context, Optional<Tokens.Given> given) {
        if (given.isEmpty()) {
            refuse(context, 400, "invalid_grant");
            return;
        }
        ObjectNode body = json.createObjectNode()
                .put("access_token", given.get().access())
                .put("token_type", "Bearer")
                .put("expires_in", Tokens.LIFE.toSeconds());
        if (!given.get().refresh().isEmpty()) {
            body.put("refresh_token", given.get().refresh());
        }
        write(context, 200, body);
    }

    private void refuse(Context context, int status, String error) {
        write(context, status, json.createObjectNode().put("error", error));
    }

    private void write(Context context, int status, ObjectNode body) {
        context.status(status)
                .contentType("application/json")
                .header("Cache-Control", "no-store")
                .result(json.writeValueAsBytes(body));
    }

    private static String form(Context context, String name) {
        return Optional.ofNullable(context.formParam(name)).orElse("");
    }
}
