package remitto.server.openid;

import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.openid.connect.sdk.claims.IDTokenClaimsSet;
import com.nimbusds.openid.connect.sdk.claims.UserInfo;
import java.net.URI;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.function.Supplier;
import org.springframework.stereotype.Component;
import remitto.server.permission.Role;
import remitto.server.permission.UserAccount;

/** From a code of the sign-in server to an account that is let in. */
@Component
class OpenIdSignIn {
    /** A sign-in server that is slow holds these many requests at most, and none of anybody else. */
    private static final int AT_A_TIME = 8;

    private final OpenIdSettings settings;
    private final OpenIdAccounts accounts;
    private final Semaphore asking = new Semaphore(AT_A_TIME);

    OpenIdSignIn(OpenIdSettings settings, OpenIdAccounts accounts) {
        this.settings = settings;
        this.accounts = accounts;
    }

    URI authorize(OpenIdProvider.Attempt attempt, URI back) {
        return asked(() -> OpenIdProvider.found(settings).authorize(attempt, back));
    }

    private <T> T asked(Supplier<T> question) {
        if (!asking.tryAcquire()) {
            throw new OpenIdFailure("Too many people are signing in. Try again shortly.");
        }
        try {
            return question.get();
        } finally {
            asking.release();
        }
    }

    /** @throws OpenIdFailure when it is not let in */
    UserAccount account(String code, OpenIdProvider.Attempt attempt, URI back) {
        IDTokenClaimsSet claims = asked(() -> OpenIdProvider.found(settings).claims(code, attempt, back));
        UserAccount account = accounts.of(told(claims));
        if (!account.active()) {
            throw new OpenIdFailure("Your account here is deactivated. Ask an administrator.");
        }
        return account;
    }

    private OpenIdAccounts.Told told(IDTokenClaimsSet claims) {
        UserInfo person = person(claims);
        String email = Optional.ofNullable(person.getEmailAddress())
                .orElseThrow(() -> new OpenIdFailure("The sign-in server does not tell your e-mail address."));
        Role role = settings.role(values(claims))
                .orElseThrow(() -> new OpenIdFailure(
                        "You have no role here. Ask an administrator of the sign-in server for one."));
        return new OpenIdAccounts.Told(
                claims.getIssuer().getValue(),
                claims.getSubject().getValue(),
                email,
                Boolean.TRUE.equals(person.getEmailVerified()),
                Optional.ofNullable(person.getName()).orElse(email),
                role);
    }

    private static UserInfo person(IDTokenClaimsSet claims) {
        try {
            return new UserInfo(claims.toJWTClaimsSet());
        } catch (ParseException e) {
            throw new OpenIdFailure("The sign-in server tells of you in a form that is none of OpenID Connect.", e);
        }
    }

    /** One value, or several. */
    private List<String> values(IDTokenClaimsSet claims) {
        Object told = claims.getClaim(settings.roleClaim());
        if (told instanceof List<?> list) {
            return list.stream().map(String::valueOf).toList();
        }
        return Optional.ofNullable(told).map(String::valueOf).map(List::of).orElse(List.of());
    }
}
