package remitto.server.openid;

/** A sign-in at the sign-in server that came to nothing, told so that a person can act on it. */
final class OpenIdFailure extends RuntimeException {
    OpenIdFailure(String words) {
        super(words);
    }

    OpenIdFailure(String words, Throwable cause) {
        super(words, cause);
    }
}
