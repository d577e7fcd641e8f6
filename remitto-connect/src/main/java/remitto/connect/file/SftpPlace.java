package remitto.connect.file;

import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayDeque;
import java.util.Deque;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.common.SftpConstants;
import org.apache.sshd.sftp.common.SftpException;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.RateLimit;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.sftp.SftpConnection;
import remitto.connect.sftp.SftpLogin;
import remitto.connect.sftp.SftpTrouble;
import remitto.connect.signin.Login;

/** A folder of another machine, by SFTP. Each file is a connection of its own. */
final class SftpPlace implements Place {
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
        SftpConnection connection = new SftpConnection(
                new SftpLogin(
                        address.host(),
                        address.port(),
                        login.setting("user"),
                        login.setting("host_key"),
                        login.setting("password"),
                        login.setting("private_key")),
                guard);
        try {
            connection.check();
            rateLimit.await();
            return connection.with(sftp -> work.with(sftp, address.folder()));
        } catch (SftpTrouble e) {
            throw new DestinationProblem(
                    switch (e.kind()) {
                        case UNREACHABLE -> Kind.UNREACHABLE;
                        case SIGN_IN_REFUSED -> Kind.SIGN_IN_REFUSED;
                        case REFUSED -> Kind.REFUSED;
                    },
                    String.valueOf(e.getMessage()));
        } catch (SftpException e) {
            throw new DestinationProblem(Kind.REFUSED, title + ": " + e.getMessage());
        } catch (IOException e) {
            throw new DestinationProblem(Kind.UNREACHABLE, title + ": " + SftpConnection.words(e));
        }
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
