package remitto.server.access;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpMethod;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.ProviderNotFoundException;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.context.SecurityContextHolderFilter;
import org.springframework.session.jdbc.PostgreSqlJdbcIndexedSessionRepositoryCustomizer;
import remitto.server.failure.SecurityAnswers;
import remitto.server.permission.Role;
import remitto.server.token.TokenAuthentication;

/** Sign-in by session, CSRF by a cookie the front end sends back, roles by address. */
@Configuration
class SecurityConfiguration {
    private static final Logger LOG = LoggerFactory.getLogger(SecurityConfiguration.class);
    private static final int ADVISED_MEMORY_KB = 19 * 1024;
    private static final int PASSES = 2;
    private static final int SALT_BYTES = 16;
    private static final int HASH_BYTES = 32;

    /** Calls of other tools: nobody is signed in, and whoever calls is told by the receiver's own check. */
    @Bean
    @Order(1)
    SecurityFilterChain callSecurity(HttpSecurity http) throws Exception {
        return http.securityMatcher("/in/**")
                .csrf(csrf -> csrf.disable())
                .requestCache(cache -> cache.disable())
                .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                .authorizeHttpRequests(requests -> requests.anyRequest().permitAll())
                .build();
    }

    @Bean
    SecurityFilterChain security(
            HttpSecurity http, SessionContexts contexts, TokenAuthentication tokens, SecurityAnswers answers)
            throws Exception {
        return http.csrf(csrf -> csrf.spa().ignoringRequestMatchers(TokenAuthentication::letIn))
                .addFilterAfter(tokens, SecurityContextHolderFilter.class)
                .securityContext(context -> context.securityContextRepository(contexts))
                .requestCache(cache -> cache.disable())
                .authorizeHttpRequests(requests -> requests.requestMatchers(
                                "/api/session", "/api/session/open-id/**", "/api/welcome/**")
                        .permitAll()
                        .requestMatchers("/api/users/**", "/api/service-accounts/**")
                        .hasRole(Role.ADMIN.name())
                        .requestMatchers(HttpMethod.PUT, "/api/retention/**")
                        .hasRole(Role.ADMIN.name())
                        .requestMatchers("/api/session/**")
                        .authenticated()
                        .requestMatchers(
                                HttpMethod.POST,
                                "/api/hash-keys",
                                "/api/sources/*/accept-login",
                                "/api/destinations/*/let-in")
                        .hasRole(Role.ADMIN.name())
                        .requestMatchers(HttpMethod.POST, "/api/runs/*/approve", "/api/people/runs/*/approve")
                        .hasAnyRole(Role.APPROVER.name(), Role.ADMIN.name())
                        .requestMatchers(HttpMethod.POST, "/api/erasures", "/api/erasures/**")
                        .hasAnyRole(Role.APPROVER.name(), Role.ADMIN.name())
                        // Reads a warehouse or calls a destination, so that looking on is not enough.
                        .requestMatchers(
                                HttpMethod.GET,
                                "/api/people/*/file",
                                "/api/people/*/file.json",
                                "/api/destinations/*/accounts",
                                "/api/destinations/*/prerequisites",
                                "/api/destinations/*/named",
                                "/api/datasets/*/records",
                                "/api/audiences/*/columns",
                                "/api/crosswalks/*/unmapped",
                                "/api/file-sets/matches")
                        .hasAnyRole(Role.EDITOR.name(), Role.APPROVER.name(), Role.ADMIN.name())
                        .requestMatchers(HttpMethod.GET, "/api/**")
                        .authenticated()
                        // Questions that change nothing, asked with a body since they are long.
                        .requestMatchers(HttpMethod.POST, "/api/conditions/**", "/api/audiences/*/effect")
                        .authenticated()
                        .requestMatchers("/api/**")
                        .hasAnyRole(Role.EDITOR.name(), Role.APPROVER.name(), Role.ADMIN.name())
                        // Pages, scripts and health; what these need nobody to be is decided where they are served.
                        .requestMatchers(HttpMethod.GET, "/**")
                        .permitAll()
                        .requestMatchers(HttpMethod.HEAD, "/**")
                        .permitAll()
                        .anyRequest()
                        .denyAll())
                .exceptionHandling(
                        handling -> handling.authenticationEntryPoint(answers).accessDeniedHandler(answers))
                .headers(
                        headers -> headers.contentSecurityPolicy(
                                policy -> policy.policyDirectives(
                                        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; frame-ancestors 'none'")))
                .build();
    }

    /**
     * Argon2id (RFC 9106) with two passes. A stored hash tells what it was made with, so that those from before another setting stay valid.
     *
     * @param memoryKb what each hash takes; the default is the least that OWASP's Password Storage Cheat Sheet names for two passes,
     *     and less is for tests alone
     */
    @Bean
    PasswordEncoder passwordEncoder(@Value("${remitto.password-memory-kb}") int memoryKb) {
        if (memoryKb < ADVISED_MEMORY_KB) {
            LOG.warn(
                    "Passwords are hashed with {} KB of memory each, less than the {} KB that are advised",
                    memoryKb,
                    ADVISED_MEMORY_KB);
        }
        return new Argon2PasswordEncoder(SALT_BYTES, HASH_BYTES, 1, memoryKb, PASSES);
    }

    /** What two requests of one session write at one moment does not fail. */
    @Bean
    PostgreSqlJdbcIndexedSessionRepositoryCustomizer sessionWrites() {
        return new PostgreSqlJdbcIndexedSessionRepositoryCustomizer();
    }

    /** Passwords are looked at by {@link SignIns} alone; without this the framework would make an account of its own. */
    @Bean
    AuthenticationManager authenticationManager() {
        return authentication -> {
            throw new ProviderNotFoundException("people sign in by a session");
        };
    }
}
