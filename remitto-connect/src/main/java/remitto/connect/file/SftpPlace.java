package remitto.connect.file;

import java.io.IOException;
import java.io.OutputStream;
import java.io.StringReader;
import java.net.InetSocketAddress;
import java.net.UnknownHostException;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.PublicKey;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
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
import org.apache.sshd.sftp.common.SftpConstants;
import org.apache.sshd.sftp.common.SftpException;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.RateLimit;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.signin.Login;

/**
 * A folder of another machine, by SFTP (version 3 of its draft) over SSH. The server is known by the fingerprint of its key
 * (SHA-256, as RFC 4255 and ssh-keygen write it); another key is never spoken to. Each file is a connection of its own.
 */
final class SftpPlace implements Place {
    private static final Pattern PEM =
            Pattern.compile("(-----BEGIN [A-Z ]+-----)([^-]+)(-----END [A-Z ]+-----)", Pattern.DOTALL);
    private static final Duration CONNECT = Duration.ofSeconds(10);

    private final String title;
    private final Login login;
    private final AddressGuard guard;
    private final RateLimit rateLimit;

    SftpPlace(String title, Login login, AddressGuard guard, RateLimit rateLimit) {
        this.title = title;
        this.login = login;
        this.guard = guard;
        this.rateLimit = rateLimit;
    }

    private interface Work<T> {
        T with(SftpClient sftp, String folder) throws IOException;
    }

    private <T> T connected(Work<T> work) {
        SftpAddress address = SftpAddress.of(login.setting("base_address"));
        try {
            guard.check(address.uri());
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.REFUSED, String.valueOf(e.getMessage()));
        }
        rateLimit.await();
        InetSocketAddress checked = checked(address);
        AtomicReference<String> met = new AtomicReference<>("");
        SshClient client = SshClient.setUpDefaultClient();
        client.setServerKeyVerifier(verifier(met));
        // Keys and configurations of the account that this server runs as are none of its business.
        client.setKeyIdentityProvider(org.apache.sshd.common.keyprovider.KeyIdentityProvider.EMPTY_KEYS_PROVIDER);
        client.setHostConfigEntryResolver(org.apache.sshd.client.config.hosts.HostConfigEntryResolver.EMPTY);
        client.start();
        try (ClientSession session =
                client.connect(login.setting("user"), checked).verify(CONNECT).getSession()) {
            identify(session);
            session.auth().verify(CONNECT);
            try (SftpClient sftp = SftpClientFactory.instance().createSftpClient(session)) {
                return work.with(sftp, address.folder());
            }
        } catch (SftpException e) {
            throw new DestinationProblem(Kind.REFUSED, title + ": " + e.getMessage());
        } catch (SshException e) {
            throw problem(address, met.get(), e);
        } catch (IOException e) {
            throw new DestinationProblem(Kind.UNREACHABLE, title + ": " + words(e));
        } finally {
            client.stop();
        }
    }

    /** Where the connection goes: to the address that was checked, whatever the name means a moment later. */
    private InetSocketAddress checked(SftpAddress address) {
        try {
            return new InetSocketAddress(guard.resolve(address.host(), address.port())[0], address.port());
        } catch (UnknownHostException e) {
            throw new DestinationProblem(
                    e instanceof RefusedAddress ? Kind.REFUSED : Kind.UNREACHABLE, String.valueOf(e.getMessage()));
        }
    }

    private DestinationProblem problem(SftpAddress address, String met, SshException e) {
        String pinned = login.setting("host_key").strip();
        if (!met.isEmpty() && !met.equals(pinned)) {
            return new DestinationProblem(
                    Kind.REFUSED,
                    address.host() + " shows the key " + met
                            + (pinned.isEmpty()
                                    ? ". Ask whoever runs it whether it is theirs, and enter it as the server's key."
                                    : ", not the one that was entered. Somebody may stand between; nothing was sent."));
        }
        boolean letIn = String.valueOf(e.getMessage()).contains("No more authentication methods");
        return letIn
                ? new DestinationProblem(
                        Kind.SIGN_IN_REFUSED, address.host() + " does not let " + login.setting("user") + " in.")
                : new DestinationProblem(Kind.UNREACHABLE, title + ": " + words(e));
    }

    private static String words(IOException e) {
        Throwable last = e;
        while (last.getCause() != null) {
            last = last.getCause();
        }
        return String.valueOf(last.getMessage());
    }

    private ServerKeyVerifier verifier(AtomicReference<String> met) {
        return (session, remote, key) -> {
            met.set(fingerprint(key));
            return met.get().equals(login.setting("host_key").strip());
        };
    }

    private static String fingerprint(PublicKey key) {
        return KeyUtils.getFingerPrint(org.apache.sshd.common.digest.BuiltinDigests.sha256.create(), key);
    }

    private void identify(ClientSession session) throws IOException {
        String key = lines(login.setting("private_key"));
        if (key.isEmpty()) {
            session.addPasswordIdentity(login.setting("password"));
            return;
        }
        try {
            String password = login.setting("password");
            for (KeyPair pair : SecurityUtils.getKeyPairResourceParser()
                    .loadKeyPairs(
                            session,
                            NamedResource.ofName("the private key"),
                            FilePasswordProvider.of(password),
                            new StringReader(key))) {
                session.addPublicKeyIdentity(pair);
            }
        } catch (GeneralSecurityException | IOException e) {
            throw new DestinationProblem(
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

    @Override
    public String check() {
        return connected((sftp, folder) -> {
            String where = sftp.canonicalPath(folder.isEmpty() ? "." : folder);
            if (!sftp.stat(where).isDirectory()) {
                throw new DestinationProblem(Kind.REFUSED, where + " is not a folder on the server.");
            }
            return "Files go to " + where + " of "
                    + SftpAddress.of(login.setting("base_address")).host() + ", as " + login.setting("user");
        });
    }

    @Override
    public void put(String path, Content content) {
        connected((sftp, folder) -> {
            String file = folder.isEmpty() ? path : folder + "/" + path;
            makeFolders(sftp, file);
            String part = file + ".part";
            try (OutputStream out = sftp.write(
                    part, SftpClient.OpenMode.Create, SftpClient.OpenMode.Truncate, SftpClient.OpenMode.Write)) {
                content.to(out);
            }
            rename(sftp, part, file);
            return true;
        });
    }

    private static void makeFolders(SftpClient sftp, String file) throws IOException {
        Deque<String> missing = new ArrayDeque<>();
        int slash = file.lastIndexOf('/');
        while (slash > 0) {
            String folder = file.substring(0, slash);
            if (exists(sftp, folder)) {
                break;
            }
            missing.push(folder);
            slash = folder.lastIndexOf('/');
        }
        for (String folder : missing) {
            sftp.mkdir(folder);
        }
    }

    private static boolean exists(SftpClient sftp, String path) throws IOException {
        try {
            sftp.stat(path);
            return true;
        } catch (SftpException e) {
            if (e.getStatus() == SftpConstants.SSH_FX_NO_SUCH_FILE) {
                return false;
            }
            throw e;
        }
    }

    /** Version 3 replaces nothing when it renames, so the one before goes first; for that moment there is none. */
    private static void rename(SftpClient sftp, String part, String file) throws IOException {
        if (exists(sftp, file)) {
            sftp.remove(file);
        }
        sftp.rename(part, file);
    }
}
