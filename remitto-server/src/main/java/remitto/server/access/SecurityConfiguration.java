package remitto.server.access;

import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.ProviderManager;
import org.springframework.security.authentication.dao.DaoAuthenticationProvider;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.HttpStatusEntryPoint;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import remitto.server.platform.RemittoProperties;

/** Sign-in by session, CSRF by a cookie the front end sends back, roles by address. */
@Configuration
class SecurityConfiguration {
    @Bean
    SecurityFilterChain security(HttpSecurity http, SecurityContextRepository contexts) throws Exception {
        return http.csrf(csrf -> csrf.spa())
                .securityContext(context -> context.securityContextRepository(contexts))
                .requestCache(cache -> cache.disable())
                .authorizeHttpRequests(requests -> requests.requestMatchers("/api/session")
                        .permitAll()
                        .requestMatchers("/api/users/**")
                        .hasRole(Role.ADMIN.name())
                        .requestMatchers(HttpMethod.POST, "/api/hash-keys")
                        .hasRole(Role.ADMIN.name())
                        .requestMatchers(HttpMethod.POST, "/api/runs/*/approve", "/api/people/runs/*/approve")
                        .hasAnyRole(Role.APPROVER.name(), Role.ADMIN.name())
                        .requestMatchers(HttpMethod.POST, "/api/erasures", "/api/erasures/*/**")
                        .hasAnyRole(Role.APPROVER.name(), Role.ADMIN.name())
                        .requestMatchers(HttpMethod.GET, "/api/people/*/file", "/api/people/*/file.json")
                        .hasAnyRole(Role.EDITOR.name(), Role.APPROVER.name(), Role.ADMIN.name())
                        .requestMatchers(HttpMethod.GET, "/api/**")
                        .authenticated()
                        // Questions that change nothing, asked with a body since they are long.
                        .requestMatchers(HttpMethod.POST, "/api/conditions/**", "/api/audiences/*/effect")
                        .authenticated()
                        .requestMatchers("/api/**")
                        .hasAnyRole(Role.EDITOR.name(), Role.APPROVER.name(), Role.ADMIN.name())
                        .anyRequest()
                        .permitAll())
                .exceptionHandling(handling ->
                        handling.authenticationEntryPoint(new HttpStatusEntryPoint(HttpStatus.UNAUTHORIZED)))
                .headers(
                        headers -> headers.contentSecurityPolicy(
                                policy -> policy.policyDirectives(
                                        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; frame-ancestors 'none'")))
                .build();
    }

    @Bean
    SecurityContextRepository securityContextRepository() {
        return new HttpSessionSecurityContextRepository();
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return Argon2PasswordEncoder.defaultsForSpringSecurity_v5_8();
    }

    @Bean
    UserDetailsService userDetails(Users users) {
        return email -> users.find(email)
                .map(found -> User.withUsername(found.user().name())
                        .password(found.passwordHash())
                        .roles(found.user().role().name())
                        .build())
                .orElseThrow(() -> new UsernameNotFoundException("no such user"));
    }

    @Bean
    AuthenticationManager authenticationManager(UserDetailsService users, PasswordEncoder passwords) {
        DaoAuthenticationProvider provider = new DaoAuthenticationProvider(users);
        provider.setPasswordEncoder(passwords);
        return new ProviderManager(provider);
    }

    /** Done before the web server takes its first call. */
    @Bean
    SmartInitializingSingleton firstAdministrator(Users users, RemittoProperties properties) {
        return () -> {
            var wanted = properties.administrator();
            if (!wanted.password().isEmpty() && users.none()) {
                users.add(wanted.email(), "Administrator", Role.ADMIN, wanted.password());
            }
        };
    }
}
