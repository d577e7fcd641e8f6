package remitto.core.receiver;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** How a call is told to be of the tool that it says, by a secret that both sides know. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = CallCheck.StandardSignature.class, name = "standard-webhooks"),
    @JsonSubTypes.Type(value = CallCheck.HeaderSignature.class, name = "hmac"),
    @JsonSubTypes.Type(value = CallCheck.HeaderSecret.class, name = "shared-secret"),
    @JsonSubTypes.Type(value = CallCheck.BasicSecret.class, name = "basic"),
    @JsonSubTypes.Type(value = CallCheck.NothingAsked.class, name = "open")
})
public sealed interface CallCheck {
    /**
     * Looks whether a call was made by somebody who knows a secret.
     *
     * @param secrets that are valid now; the former one among them for a while after it was replaced
     * @return what is wrong, in a sentence that tells no secret; empty if nothing is
     */
    Optional<String> fault(CallHeaders headers, byte[] body, List<String> secrets, Instant now);

    /** What is wrong with what it says, in a sentence; empty if nothing is. */
    @JsonIgnore
    default Optional<String> problem() {
        return Optional.empty();
    }

    /** What is wrong with a secret for it, in a sentence; empty if nothing is. */
    @JsonIgnore
    default Optional<String> secretProblem(String secret) {
        return secret.length() < 16
                ? Optional.of("A secret has at least 16 characters; let one be made if the tool can take it.")
                : Optional.empty();
    }

    /** Headers that tell the secret, or that prove it. */
    @JsonIgnore
    List<String> secretHeaders();

    /** A header's name: a token of RFC 9110, section 5.6.2. */
    private static Optional<String> nameProblem(String header) {
        return header.matches("[!#$%&'*+.^_`|~0-9A-Za-z-]{1,100}")
                ? Optional.empty()
                : Optional.of("\"" + header + "\" is no name of a header; headers are called like X-Signature.");
    }

    private static boolean same(byte[] one, byte[] other) {
        return MessageDigest.isEqual(one, other);
    }

    /**
     * Signed as Standard Webhooks says (version 1.0.0): HMAC with SHA-256 over id, time and body, in base64 after {@code v1,}, with a
     * secret of {@code whsec_} and base64. A call that was signed more than five minutes ago, or for later, is refused.
     */
    record StandardSignature() implements CallCheck {
        /** As the specification's own libraries have it. */
        private static final long TOLERANCE_SECONDS = 300;

        private static final String PREFIX = "whsec_";

        @Override
        public Optional<String> fault(CallHeaders headers, byte[] body, List<String> secrets, Instant now) {
            Optional<String> id = headers.get("webhook-id");
            Optional<String> stamp = headers.get("webhook-timestamp");
            Optional<String> signatures = headers.get("webhook-signature");
            if (id.isEmpty() || stamp.isEmpty() || signatures.isEmpty()) {
                return Optional.of("The call is not signed: it needs the headers webhook-id, webhook-timestamp and"
                        + " webhook-signature.");
            }
            if (!stamp.get().matches("\\d{1,12}")) {
                return Optional.of("The header webhook-timestamp is no number of seconds since 1970.");
            }
            long age = now.getEpochSecond() - Long.parseLong(stamp.get());
            if (Math.abs(age) > TOLERANCE_SECONDS) {
                return Optional.of(
                        age > 0
                                ? "The call was signed " + age + " seconds ago, more than the 300 that are allowed."
                                : "The call was signed for " + -age
                                        + " seconds from now. One of the two clocks is wrong.");
            }
            byte[] head = (id.get() + "." + stamp.get() + ".").getBytes(StandardCharsets.UTF_8);
            for (String secret : secrets) {
                byte[] expected = Digest.SHA256.hmac(key(secret), head, body);
                for (String signature : signatures.get().strip().split(" +")) {
                    if (signature.startsWith("v1,") && same(expected, decoded(signature.substring(3)))) {
                        return Optional.empty();
                    }
                }
            }
            return Optional.of("The signature is not of this receiver's secret, or the body was changed on its way.");
        }

        private static byte[] decoded(String base64) {
            try {
                return Base64.getDecoder().decode(base64);
            } catch (IllegalArgumentException e) {
                return new byte[0];
            }
        }

        private static byte[] key(String secret) {
            return Base64.getDecoder().decode(secret.startsWith(PREFIX) ? secret.substring(PREFIX.length()) : secret);
        }

        @Override
        public Optional<String> secretProblem(String secret) {
            try {
                int bytes = key(secret).length;
                return bytes >= 24 && bytes <= 64
                        ? Optional.empty()
                        : Optional.of(
                                "A secret of Standard Webhooks is whsec_ and 24 to 64 bytes in base64; this one has "
                                        + bytes + ".");
            } catch (IllegalArgumentException e) {
                return Optional.of("A secret of Standard Webhooks is whsec_ and base64; this is no base64.");
            }
        }

        @Override
        public List<String> secretHeaders() {
            return List.of("webhook-signature");
        }
    }

    /**
     * Signed by an HMAC (RFC 2104) over the body, in a header of its own.
     *
     * @param header that holds the signature
     * @param prefix that stands before it, such as {@code sha256=}; may be blank
     * @param timeHeader whose value and a full stop are signed before the body; blank if the body alone is
     */
    record HeaderSignature(String header, Digest digest, Spelling spelling, String prefix, String timeHeader)
            implements CallCheck {
        /** How the signature is written. */
        public enum Spelling {
            HEX,
            BASE64
        }

        private static final long TOLERANCE_SECONDS = 300;

        @Override
        public Optional<String> fault(CallHeaders headers, byte[] body, List<String> secrets, Instant now) {
            Optional<String> given = headers.get(header);
            if (given.isEmpty()) {
                return Optional.of("The call is not signed: it needs the header " + header + ".");
            }
            byte[] head = new byte[0];
            if (!timeHeader.isBlank()) {
                Optional<String> stamp = headers.get(timeHeader);
                if (stamp.filter(text -> text.matches("\\d{1,12}")).isEmpty()) {
                    return Optional.of("The header " + timeHeader + " is no number of seconds since 1970.");
                }
                if (Math.abs(now.getEpochSecond() - Long.parseLong(stamp.get())) > TOLERANCE_SECONDS) {
                    return Optional.of("The call was signed more than 300 seconds ago, or for later.");
                }
                head = (stamp.get() + ".").getBytes(StandardCharsets.UTF_8);
            }
            String text = given.get().strip();
            if (!text.startsWith(prefix)) {
                return Optional.of("The header " + header + " does not begin with " + prefix + ".");
            }
            String signature = text.substring(prefix.length());
            for (String secret : secrets) {
                byte[] expected = digest.hmac(secret.getBytes(StandardCharsets.UTF_8), head, body);
                String spelled = spelling == Spelling.HEX
                        ? java.util.HexFormat.of().formatHex(expected)
                        : Base64.getEncoder().encodeToString(expected);
                String compared = spelling == Spelling.HEX ? signature.toLowerCase(Locale.ROOT) : signature;
                if (same(spelled.getBytes(StandardCharsets.UTF_8), compared.getBytes(StandardCharsets.UTF_8))) {
                    return Optional.empty();
                }
            }
            return Optional.of("The signature is not of this receiver's secret, or the body was changed on its way.");
        }

        @Override
        public Optional<String> problem() {
            return nameProblem(header).or(() -> timeHeader.isBlank() ? Optional.empty() : nameProblem(timeHeader));
        }

        @Override
        public List<String> secretHeaders() {
            return List.of(header);
        }
    }

    /**
     * The secret itself is sent.
     *
     * @param header that holds it, alone or after {@code Bearer}
     */
    record HeaderSecret(String header) implements CallCheck {
        @Override
        public Optional<String> fault(CallHeaders headers, byte[] body, List<String> secrets, Instant now) {
            Optional<String> given = headers.get(header);
            if (given.isEmpty()) {
                return Optional.of("The call needs the header " + header + " with the secret.");
            }
            String text = given.get().strip();
            String plain = text.regionMatches(true, 0, "Bearer ", 0, 7)
                    ? text.substring(7).strip()
                    : text;
            return anyOf(secrets, plain)
                    ? Optional.empty()
                    : Optional.of("The header " + header + " does not hold this receiver's secret.");
        }

        private static boolean anyOf(List<String> secrets, String given) {
            boolean any = false;
            for (String secret : secrets) {
                any |= same(secret.getBytes(StandardCharsets.UTF_8), given.getBytes(StandardCharsets.UTF_8));
            }
            return any;
        }

        @Override
        public Optional<String> problem() {
            return nameProblem(header);
        }

        @Override
        public List<String> secretHeaders() {
            return List.of(header);
        }
    }

    /**
     * A user and a password are sent, by HTTP's basic authentication (RFC 7617).
     *
     * @param user whose password is the secret
     */
    record BasicSecret(String user) implements CallCheck {
        @Override
        public Optional<String> fault(CallHeaders headers, byte[] body, List<String> secrets, Instant now) {
            Optional<String> given = headers.get("Authorization").map(String::strip);
            if (given.filter(text -> text.regionMatches(true, 0, "Basic ", 0, 6))
                    .isEmpty()) {
                return Optional.of("The call needs a user and a password (basic authentication).");
            }
            String sent = given.get().substring(6).strip();
            boolean any = false;
            for (String secret : secrets) {
                String expected =
                        Base64.getEncoder().encodeToString((user + ":" + secret).getBytes(StandardCharsets.UTF_8));
                any |= same(expected.getBytes(StandardCharsets.UTF_8), sent.getBytes(StandardCharsets.UTF_8));
            }
            return any ? Optional.empty() : Optional.of("The user or the password is not this receiver's.");
        }

        @Override
        public Optional<String> problem() {
            return user.isBlank() || user.indexOf(':') >= 0
                    ? Optional.of("Enter the name that the tool signs in by, without a colon.")
                    : Optional.empty();
        }

        @Override
        public List<String> secretHeaders() {
            return List.of("authorization");
        }
    }

    /** Whoever knows the address may call. */
    record NothingAsked() implements CallCheck {
        @Override
        public Optional<String> fault(CallHeaders headers, byte[] body, List<String> secrets, Instant now) {
            return Optional.empty();
        }

        @Override
        public Optional<String> secretProblem(String secret) {
            return Optional.empty();
        }

        @Override
        public List<String> secretHeaders() {
            return List.of();
        }
    }

    /** Headers that are never shown, whatever a receiver checks. */
    Set<String> NEVER_SHOWN = Set.of("authorization", "cookie", "proxy-authorization", "webhook-signature");
}
