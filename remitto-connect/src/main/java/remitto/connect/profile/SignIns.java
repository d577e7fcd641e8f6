package remitto.connect.profile;

import java.net.http.HttpRequest;
import java.time.Clock;
import java.util.Map;
import java.util.Optional;
import remitto.connect.profile.Profile.Authentication;
import remitto.connect.signin.ClientSignIn;
import remitto.connect.signin.DelegatedSignIn;
import remitto.connect.signin.Exchanger;
import remitto.connect.signin.HeaderSignIn;
import remitto.connect.signin.Login;
import remitto.connect.signin.SignIn;
import remitto.connect.signin.SignedCalls;
import remitto.connect.signin.TokenCalls;

/** The sign-in that a profile describes and a person chose. */
final class SignIns {
    private SignIns() {}

    static SignIn of(Profile profile, Login login, Exchanger exchanger, Clock clock) {
        Authentication how = profile.way(login.way());
        return switch (how.kind()) {
            case CLIENT_CREDENTIALS -> new ClientSignIn(calls(profile, how, login, exchanger));
            case DELEGATED -> new DelegatedSignIn(calls(profile, how, login, exchanger), login.grant());
            case API_KEY -> new HeaderSignIn(how.header().orElse("Authorization"), setting(login, how.key()));
            case BEARER -> HeaderSignIn.bearer(setting(login, how.key()));
            case BASIC -> HeaderSignIn.basic(setting(login, how.user()), setting(login, how.password()));
            case STANDARD_WEBHOOKS -> new SignedCalls(setting(login, how.key()), clock);
            case NONE -> SignIns::unsigned;
        };
    }

    static TokenCalls calls(Profile profile, Authentication how, Login login, Exchanger exchanger) {
        return new TokenCalls(
                profile.title(),
                new TokenCalls.Client(
                        setting(login, how.clientId()),
                        setting(login, how.clientSecret()),
                        how.tokenPath().orElse("/"),
                        how.authorizePath().orElse("/"),
                        how.scope().orElse("")),
                exchanger);
    }

    private static String setting(Login login, Optional<String> name) {
        return name.map(login::setting).orElse("");
    }

    /** The address itself is the secret. */
    private static String unsigned(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        return "";
    }
}
