package remitto.server.token;

import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.PathItem;
import io.swagger.v3.oas.models.security.SecurityRequirement;
import io.swagger.v3.oas.models.security.SecurityScheme;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import remitto.server.failure.SecurityAnswers;
import remitto.server.permission.Accounts;

/** Lets tokens in, and says in the OpenAPI document what each operation needs of one. */
@Configuration
class TokenConfiguration {
    private static final String TOKEN = "token";
    private static final String SESSION = "session";

    @Bean
    TokenAuthentication tokenAuthentication(
            Tokens tokens,
            TokenRates rates,
            TokenReach reach,
            OperationScopes scopes,
            Accounts accounts,
            SecurityAnswers answers,
            Clock clock) {
        return new TokenAuthentication(tokens, rates, reach, scopes, accounts, answers, clock);
    }

    /** It stands among the filters of the sign-in, and not before all of them a second time. */
    @Bean
    FilterRegistrationBean<TokenAuthentication> notASecondTime(TokenAuthentication filter) {
        FilterRegistrationBean<TokenAuthentication> registration = new FilterRegistrationBean<>(filter);
        registration.setEnabled(false);
        return registration;
    }

    @Bean
    OpenApiCustomizer scopesInTheDocument(OperationScopes scopes) {
        return document -> {
            document.getComponents()
                    .addSecuritySchemes(
                            TOKEN,
                            new SecurityScheme()
                                    .type(SecurityScheme.Type.HTTP)
                                    .scheme("bearer")
                                    .description(
                                            "A token of a service account (RFC 6750). What it may call is said by its"
                                                    + " scopes; each operation says which one it needs."))
                    .addSecuritySchemes(
                            SESSION,
                            new SecurityScheme()
                                    .type(SecurityScheme.Type.APIKEY)
                                    .in(SecurityScheme.In.COOKIE)
                                    .name("remitto")
                                    .description("The session of somebody who signed in by the browser."));
            document.getPaths().forEach((path, item) -> item.readOperationsMap()
                    .forEach((method, operation) -> say(operation, needed(scopes, method, path))));
        };
    }

    private static Optional<Scope> needed(OperationScopes scopes, PathItem.HttpMethod method, String path) {
        return scopes.needed(HttpMethod.valueOf(method.name()), path.replaceAll("\\{[^}]+}", "1"));
    }

    private static void say(Operation operation, Optional<Scope> needed) {
        String before = Optional.ofNullable(operation.getDescription())
                .map(words -> words + " ")
                .orElse("");
        operation.setDescription(before
                + needed.map(scope -> "Scope of a token: " + scope.words() + ".")
                        .orElse("No token may call it."));
        SecurityRequirement session = new SecurityRequirement().addList(SESSION);
        operation.setSecurity(
                needed.map(scope -> List.of(new SecurityRequirement().addList(TOKEN, scope.words()), session))
                        .orElse(List.of(session)));
    }
}
