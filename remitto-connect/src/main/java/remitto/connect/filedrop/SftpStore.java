package remitto.connect.filedrop;

import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.common.SftpConstants;
import org.apache.sshd.sftp.common.SftpException;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.sftp.SftpConnection;
import remitto.connect.sftp.SftpLogin;
import remitto.connect.sftp.SftpTrouble;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.core.fileset.ListedFile;

/** A folder of another machine, by SFTP. Links are neither listed nor followed. */
public final class SftpStore implements FileStore {
    private static final int DEEPEST = 8;

    private final Login login;
    private final SftpConnection connection;

    /**
     * @param folder blank for where the login begins
     * @param hostKey fingerprint of the server's key, as ssh-keygen writes it
     * @param secret password, or a private key in OpenSSH's format or PEM
     */
    public record Login(String host, int port, String folder, String user, String hostKey, String secret) {}

    public SftpStore(Login login, AddressGuard guard) {
        this.login = login;
        boolean key = login.secret().strip().startsWith("-----BEGIN ");
        this.connection = new SftpConnection(
                new SftpLogin(
                        login.host(),
                        login.port(),
                        login.user(),
                        login.hostKey(),
                        key ? "" : login.secret(),
                        key ? login.secret() : ""),
                guard);
    }

    private <T> T with(String what, SftpConnection.Work<T> work) {
        try {
            return connection.with(work);
        } catch (SftpTrouble e) {
            throw new SourceProblem(
                    switch (e.kind()) {
                        case UNREACHABLE -> Kind.UNREACHABLE;
                        case SIGN_IN_REFUSED -> Kind.SIGN_IN_REFUSED;
                        case REFUSED -> Kind.ADDRESS_REFUSED;
                    },
                    String.valueOf(e.getMessage()));
        } catch (SftpException e) {
            throw problem(what, e);
        } catch (IOException e) {
            throw lost(e);
        }
    }

    private SourceProblem lost(IOException e) {
        return new SourceProblem(Kind.UNREACHABLE, login.host() + ": " + SftpConnection.words(e));
    }

    private SourceProblem problem(String what, SftpException e) {
        return switch (e.getStatus()) {
            case SftpConstants.SSH_FX_PERMISSION_DENIED ->
                new SourceProblem(
                        Kind.NOT_PERMITTED,
                        login.user() + " may not do that on " + login.host() + ": " + what
                                + ". Grant the right, or choose what needs none.");
            case SftpConstants.SSH_FX_NO_SUCH_FILE ->
                new SourceProblem(Kind.NOT_OFFERED, "Not found on " + login.host() + ": " + what + ".");
            default -> new SourceProblem(Kind.UNREACHABLE, login.host() + ": " + what + ": " + e.getMessage());
        };
    }

    private String root() {
        String folder = login.folder().strip();
        return folder.isEmpty() ? "." : folder.length() > 1 ? folder.replaceAll("/+$", "") : folder;
    }

    private String path(String path) {
        if (("/" + path + "/").contains("/../") || path.startsWith("/") || path.isBlank()) {
            throw new SourceProblem(Kind.ADDRESS_REFUSED, "\"" + path + "\" is outside of the source's folder.");
        }
        return root().equals("/") ? "/" + path : root() + "/" + path;
    }

    @Override
    public String check() {
        return with("open the folder " + root(), sftp -> {
            String where = sftp.canonicalPath(root());
            if (!sftp.stat(where).isDirectory()) {
                throw new SourceProblem(Kind.NOT_OFFERED, where + " is not a folder on " + login.host() + ".");
            }
            sftp.readEntries(where);
            return where + " of " + login.host();
        });
    }

    @Override
    public List<ListedFile> list() {
        List<ListedFile> files = new ArrayList<>();
        with("list the folder " + root(), sftp -> {
            list(sftp, "", 1, files);
            return true;
        });
        return files;
    }

    private void list(SftpClient sftp, String below, int depth, List<ListedFile> files) throws IOException {
        for (SftpClient.DirEntry entry : sftp.readEntries(below.isEmpty() ? root() : path(below))) {
            String name = entry.getFilename();
            SftpClient.Attributes about = entry.getAttributes();
            String path = below.isEmpty() ? name : below + "/" + name;
            if (name.equals(".") || name.equals("..")) {
                continue;
            }
            if (about.isDirectory() && depth < DEEPEST) {
                list(sftp, path, depth + 1, files);
            } else if (about.isRegularFile()) {
                files.add(new ListedFile(
                        path,
                        about.getSize(),
                        Instant.ofEpochSecond(about.getModifyTime().to(java.util.concurrent.TimeUnit.SECONDS)),
                        ""));
            }
            if (files.size() > FolderStore.MOST_FILES) {
                throw new SourceProblem(
                        Kind.ROWS_TOO_LARGE,
                        "There are more than 50,000 files in " + root() + " of " + login.host()
                                + ". Archive or delete files after reading, or choose a folder further down.");
            }
        }
    }

    @Override
    public <T> T read(String path, Use<T> use) throws IOException {
        String file = path(path);
        return with("read " + file, sftp -> {
            try (InputStream bytes = sftp.read(file)) {
                return use.of(bytes);
            }
        });
    }

    @Override
    public void archive(String path) {
        String from = path(path);
        String to = path(FileStore.archived(path));
        with("archive " + from, sftp -> {
            String folder = to.substring(0, to.lastIndexOf('/'));
            if (!exists(sftp, folder)) {
                sftp.mkdir(folder);
            }
            if (exists(sftp, to)) {
                sftp.remove(to);
            }
            sftp.rename(from, to);
            return true;
        });
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

    @Override
    public void delete(String path) {
        String file = path(path);
        with("delete " + file, sftp -> {
            if (exists(sftp, file)) {
                sftp.remove(file);
            }
            return true;
        });
    }
}
