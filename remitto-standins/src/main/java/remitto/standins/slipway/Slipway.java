package remitto.standins.slipway;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.PublicKey;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.apache.sshd.common.config.keys.AuthorizedKeyEntry;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.digest.BuiltinDigests;
import org.apache.sshd.common.file.virtualfs.VirtualFileSystemFactory;
import org.apache.sshd.server.SshServer;
import org.apache.sshd.server.keyprovider.SimpleGeneratorHostKeyProvider;
import org.apache.sshd.sftp.server.SftpSubsystemFactory;
import remitto.standins.page.Html;
import tools.jackson.databind.json.JsonMapper;

/** Slipway, running on loopback: an SFTP server of its own, and pages that show what was left there. */
public final class Slipway implements AutoCloseable {
    /** Who may sign in, and with what. */
    public static final String USER = "halvorn";

    public static final String PASSWORD = "slip-7713";
    private static final int SHOWN_LINES = 60;

    private final Path root;
    private final SshServer ssh;
    private final String hostKey;
    private final Javalin pages;
    private final SlipFaults faults = new SlipFaults();
    private final Set<PublicKey> keys = ConcurrentHashMap.newKeySet();
    private final JsonMapper json = JsonMapper.builder().build();
    private final SlipFrame frame = new SlipFrame();

    private Slipway(int pagePort, int sshPort, Path data) {
        try {
            this.root = Files.createDirectories(data.resolve("files"));
            this.ssh = server(sshPort, data);
            ssh.start();
            KeyPair pair = ssh.getKeyPairProvider().loadKeys(null).iterator().next();
            this.hostKey = KeyUtils.getFingerPrint(BuiltinDigests.sha256.create(), pair.getPublic());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("its key cannot be read", e);
        }
        this.pages = Javalin.create(config -> {
                    config.startup.showJavalinBanner = false;
                    config.jetty.host = "127.0.0.1";
                    mount(config.routes);
                })
                .start(pagePort);
    }

    /**
     * @param pagePort and {@code sshPort}: 0 for any free one
     * @param data folder that holds its files and its key across restarts
     */
    public static Slipway start(int pagePort, int sshPort, Path data) {
        return new Slipway(pagePort, sshPort, data);
    }

    private SshServer server(int port, Path data) {
        SshServer server = SshServer.setUpDefaultServer();
        server.setHost("127.0.0.1");
        server.setPort(port);
        SimpleGeneratorHostKeyProvider hostKey = new SimpleGeneratorHostKeyProvider(data.resolve("host.key"));
        hostKey.setAlgorithm(KeyUtils.EC_ALGORITHM);
        server.setKeyPairProvider(hostKey);
        server.setPasswordAuthenticator(
                (user, password, session) -> !faults.refuses() && USER.equals(user) && PASSWORD.equals(password));
        server.setPublickeyAuthenticator((user, key, session) -> USER.equals(user) && keys.contains(key));
        SftpSubsystemFactory sftp = new SftpSubsystemFactory();
        sftp.addSftpEventListener(faults);
        server.setSubsystemFactories(List.of(sftp));
        server.setFileSystemFactory(new VirtualFileSystemFactory(root));
        return server;
    }

    public int port() {
        return pages.port();
    }

    public int sshPort() {
        return ssh.getPort();
    }

    /** Fingerprint of its key, as ssh-keygen writes it. */
    public String hostKey() {
        return hostKey;
    }

    private void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(list()));
        routes.get("/file", context -> context.html(file(context.queryParam("path"))));
        routes.get("/control/where", context -> answer(context, new Where(sshPort(), hostKey())));
        routes.get(
                "/control/files",
                context -> answer(context, files().stream().map(this::name).toList()));
        routes.get("/control/file", context -> context.contentType("application/octet-stream")
                .result(Files.readAllBytes(inside(context.queryParam("path")))));
        routes.post("/control/faults", context -> {
            faults.set(json.readValue(context.bodyAsBytes(), SlipFaults.Request.class));
            answer(context, faults.left());
        });
        routes.post("/control/keys", context -> {
            keys.add(AuthorizedKeyEntry.parseAuthorizedKeyEntry(context.body()).resolvePublicKey(null, null));
            context.status(204);
        });
        routes.post("/faults", context -> {
            faults.set(
                    new SlipFaults.Request(number(context, "refuse"), number(context, "cut"), number(context, "slow")));
            context.redirect("/");
        });
        routes.delete("/control/data", context -> {
            for (Path file : files()) {
                Files.delete(file);
            }
            context.status(204);
        });
    }

    private record Where(int sftpPort, String hostKey) {}

    private void answer(Context context, Object body) {
        context.contentType("application/json").result(json.writeValueAsBytes(body));
    }

    private static int number(Context context, String name) {
        String text = context.formParam(name);
        return text == null || !text.matches("\\d{1,4}") ? 0 : Integer.parseInt(text);
    }

    private List<Path> files() {
        try (Stream<Path> all = Files.walk(root)) {
            return all.filter(Files::isRegularFile)
                    .sorted(Comparator.comparing(Slipway::changed).reversed())
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Instant changed(Path file) {
        try {
            return Files.getLastModifiedTime(file).toInstant();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private String name(Path file) {
        return root.relativize(file).toString().replace('\\', '/');
    }

    private Path inside(String path) {
        Path file = root.resolve(path == null ? "" : path).normalize();
        if (!file.startsWith(root) || !Files.isRegularFile(file)) {
            throw new io.javalin.http.NotFoundResponse("no such file");
        }
        return file;
    }

    private String list() {
        StringBuilder rows = new StringBuilder();
        for (Path file : files()) {
            String name = Html.escape(name(file));
            rows.append("<tr><td><a href=\"/file?path=%s\">%s</a><td class=n>%,d<td>%s"
                    .formatted(
                            java.net.URLEncoder.encode(name(file), StandardCharsets.UTF_8),
                            name,
                            size(file),
                            Html.time(changed(file))));
        }
        SlipFaults.Request left = faults.left();
        return frame.page("Files", """
                <p>sftp://127.0.0.1:%d, user %s. Server key <code>%s</code></p>
                <table><thead><tr><th>File<th class=n>Bytes<th>Left here</thead><tbody>%s</tbody></table>%s
                <form method=post action=/faults><h2>What goes wrong next</h2>
                <label>Sign-ins refused <input name=refuse value=%d></label>
                <label>Connections cut while a file is written <input name=cut value=%d></label>
                <label>Milliseconds that each part of a file takes <input name=slow value=%d></label>
                <button>Set</button></form>
                """.formatted(
                        sshPort(),
                        USER,
                        hostKey(),
                        rows,
                        rows.isEmpty() ? "<p>Nothing was left here yet.</p>" : "",
                        left.refuse(),
                        left.cut(),
                        left.slowMillis()));
    }

    private static long size(Path file) {
        try {
            return Files.size(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private String file(String path) throws IOException {
        Path file = inside(path);
        List<String> lines = new ArrayList<>();
        byte[] bytes = Files.readAllBytes(file);
        if (name(file).toLowerCase(Locale.ROOT).endsWith(".gz")) {
            bytes = new GZIPInputStream(new java.io.ByteArrayInputStream(bytes)).readAllBytes();
        }
        new String(bytes, StandardCharsets.UTF_8).lines().limit(SHOWN_LINES).forEach(lines::add);
        return frame.page(
                Html.escape(name(file)),
                "<h2>%s</h2><p><a href=/>All files</a>. %,d bytes; read as UTF-8, the first %d lines.</p><pre>%s</pre>"
                        .formatted(
                                Html.escape(name(file)),
                                size(file),
                                SHOWN_LINES,
                                Html.escape(String.join("\n", lines))));
    }

    @Override
    public void close() {
        pages.stop();
        try {
            ssh.stop(true);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
