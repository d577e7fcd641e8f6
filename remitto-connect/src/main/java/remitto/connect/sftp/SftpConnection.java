package remitto.connect.sftp;

import java.io.IOException;
import java.io.StringReader;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.PublicKey;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicReference;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.sshd.client.SshClient;
import org.apache.sshd.client.keyverifier.ServerKeyVerifier;
import org.apache.sshd.client.session.ClientSession;
import org.apache.sshd.common.NamedResource;
import org.apache.sshd.common.SshException;
import org.apache.sshd.common.config.keys.FilePasswordProvider;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.util.security.SecurityUtils;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.client.SftpClientFactory;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.sftp.SftpTrouble.Kind;

/**
 * Sessions by SFTP (version 3 of its draft) over SSH. The server is known by the fingerprint of its key (SHA-256, as RFC 4255 and
 * ssh-keygen write it); another key is never spoken to. Each piece of work is a connection of its own.
 */
public final class SftpConnection {
    private static final Pattern PEM =
            Pattern.compile("(-----BEGIN [A-Z ]+-----)([^-]+)(-----END [A-Z ]+-----)", Pattern.DOTALL);
    private static final Duration CONNECT = Duration.ofSeconds(10);

    private final SftpLogin login;
    private final AddressGuard guard;

    public SftpConnection(SftpLogin login, AddressGuard guard) {
        this.login = login;
        this.guard = guard;
    }

    /** What is done in a session. */
    @FunctionalInterface
    public interface Work<T> {
        T with(SftpClient sftp) throws IOException;
    }

    /**
     * Asks whether the server may be called.
     *
     * @throws SftpTrouble if not
     */
    public void check() {
        try {
            guard.check(URI.create("sftp://" + login.host() + ":" + login.port()));
        } catch (IllegalArgumentException e) {
            throw new SftpTrouble(Kind.REFUSED, String.valueOf(e.getMessage()));
        }
    }

    /**
     * Opens a session and closes it after the work.
     *
     * @throws SftpTrouble if there is none
     * @throws IOException that the work threw, or since the session was lost during it
     */
    public <T> T with(Work<T> work) throws IOException {
        check();
        InetSocketAddress checked = checked();
        AtomicReference<String> met = new AtomicReference<>("");
        SshClient client = SshClient.setUpDefaultClient();
        client.setServerKeyVerifier(verifier(met));
        // Keys and configurations of the account that this server runs as are none of its business.
        client.setKeyIdentityProvider(org.apache.sshd.common.keyprovider.KeyIdentityProvider.EMPTY_KEYS_PROVIDER);
        client.setHostConfigEntryResolver(org.apache.sshd.client.config.hosts.HostConfigEntryResolver.EMPTY);
        client.start();
        try (ClientSession session = opened(client, checked, met);
                SftpClient sftp = SftpClientFactory.instance().createSftpClient(session)) {
            return work.with(sftp);
        } finally {
            client.stop();
        }
    }

    private ClientSession opened(SshClient client, InetSocketAddress checked, AtomicReference<String> met)
            throws IOException {
        ClientSession session = null;
        try {
            session = client.connect(login.user(), checked).verify(CONNECT).getSession();
            identify(session);
            session.auth().verify(CONNECT);
            return session;
        } catch (SshException e) {
            close(session);
            throw problem(met.get(), e);
        } catch (IOException e) {
            close(session);
            throw e;
        }
    }

    private static void close(@org.jspecify.annotations.Nullable ClientSession session) throws IOException {
        if (session != null) {
            session.close();
        }
    }

    /** Where the connection goes: to the address that was checked, whatever the name means a moment later. */
    private InetSocketAddress checked() {
        try {
            return new InetSocketAddress(guard.resolve(login.host(), login.port())[0], login.port());
        } catch (UnknownHostException e) {
            throw new SftpTrouble(
                    e instanceof RefusedAddress ? Kind.REFUSED : Kind.UNREACHABLE, String.valueOf(e.getMessage()));
        }
    }

    private SftpTrouble problem(String met, SshException e) {
        String pinned = login.hostKey().strip();
        if (!met.isEmpty() && !met.equals(pinned)) {
            return new SftpTrouble(
                    Kind.REFUSED,
                    login.host() + " shows the key " + met
                            + (pinned.isEmpty()
                                    ? ". Ask whoever runs it whether it is theirs, and enter it as the server's key."
                                    : ", not the one that was entered. Somebody may stand between; nothing was sent."));
        }
        boolean letIn = String.valueOf(e.getMessage()).contains("No more authentication methods");
        return letIn
                ? new SftpTrouble(Kind.SIGN_IN_REFUSED, login.host() + " does not let " + login.user() + " in.")
                : new SftpTrouble(Kind.UNREACHABLE, words(e));
    }

    /** What went wrong at the bottom of it. */
    public static String words(IOException e) {
        Throwable last = e;
        while (last.getCause() != null) {
            last = last.getCause();
        }
        return String.valueOf(last.getMessage());
    }

    private ServerKeyVerifier verifier(AtomicReference<String> met) {
        return (session, remote, key) -> {
            met.set(fingerprint(key));
            return met.get().equals(login.hostKey().strip());
        };
    }

    private static String fingerprint(PublicKey key) {
        return KeyUtils.getFingerPrint(org.apache.sshd.common.digest.BuiltinDigests.sha256.create(), key);
    }

    private void identify(ClientSession session) throws IOException {
        String key = lines(login.privateKey());
        if (key.isEmpty()) {
            session.addPasswordIdentity(login.password());
            return;
        }
        try {
            String password = login.password();
            for (KeyPair pair : SecurityUtils.getKeyPairResourceParser()
                    .loadKeyPairs(
                            session,
                            NamedResource.ofName("the private key"),
                            FilePasswordProvider.of(password),
                            new StringReader(key))) {
                session.addPublicKeyIdentity(pair);
            }
        } catch (GeneralSecurityException | IOException e) {
            throw new SftpTrouble(
                    Kind.SIGN_IN_REFUSED,
                    "The private key cannot be read; it is one of OpenSSH or PEM, and the password opens it if it is locked.");
        }
    }

    /** A key that lost its line ends in an input of one line has them again. */
    private static String lines(String pem) {
        Matcher parts = PEM.matcher(pem.strip());
        return parts.matches()
                ? parts.group(1) + "\n" + parts.group(2).strip().replaceAll("\\s+", "\n") + "\n" + parts.group(3) + "\n"
                : pem.strip();
    }
}
