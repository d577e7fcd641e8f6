package remitto.e2e;

import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** Debian's nginx before a server, with TLS and a path of its own. It says that everybody comes from one address. */
final class Proxy implements AutoCloseable {
    /** Of a network that documentation has (RFC 5737). */
    static final String CALLER = "203.0.113.7";

    private final Process process;
    private final URI address;

    private Proxy(Process process, URI address) {
        this.process = process;
        this.address = address;
    }

    /** @param path below which the server is, such as {@code /remitto} */
    static Proxy before(int serverPort, int port, String path, Path folder) throws IOException, InterruptedException {
        Path key = folder.resolve("proxy.key");
        Path certificate = folder.resolve("proxy.crt");
        run(
                folder,
                "openssl",
                "req",
                "-x509",
                "-newkey",
                "rsa:2048",
                "-nodes",
                "-days",
                "2",
                "-subj",
                "/CN=127.0.0.1",
                "-keyout",
                key.toString(),
                "-out",
                certificate.toString());
        Path configuration = folder.resolve("nginx.conf");
        Files.writeString(configuration, """
                daemon off;
                pid %1$s/nginx.pid;
                error_log %1$s/nginx.log;
                events {}
                http {
                  access_log off;
                  client_body_temp_path %1$s/body;
                  proxy_temp_path %1$s/proxy;
                  fastcgi_temp_path %1$s/fastcgi;
                  uwsgi_temp_path %1$s/uwsgi;
                  scgi_temp_path %1$s/scgi;
                  server {
                    listen 127.0.0.1:%2$d ssl;
                    ssl_certificate %3$s;
                    ssl_certificate_key %4$s;
                    location %5$s/ {
                      proxy_pass http://127.0.0.1:%6$d;
                      proxy_http_version 1.1;
                      proxy_buffering off;
                      proxy_set_header Host $http_host;
                      proxy_set_header X-Forwarded-For %7$s;
                      proxy_set_header X-Forwarded-Proto https;
                      proxy_set_header X-Forwarded-Port %2$d;
                    }
                  }
                }
                """.formatted(folder, port, certificate, key, path, serverPort, CALLER));
        Process process = new ProcessBuilder("/usr/sbin/nginx", "-c", configuration.toString())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("nginx.out").toFile())
                .start();
        while (!listens(port)) {
            if (!process.isAlive()) {
                throw new IllegalStateException(Files.readString(folder.resolve("nginx.out")));
            }
            TimeUnit.MILLISECONDS.sleep(50);
        }
        return new Proxy(process, URI.create("https://127.0.0.1:" + port + path));
    }

    private static void run(Path folder, String... command) throws IOException, InterruptedException {
        Path said = folder.resolve("said.txt");
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(said.toFile())
                .start();
        if (process.waitFor() != 0) {
            throw new IllegalStateException(Files.readString(said));
        }
    }

    private static boolean listens(int port) {
        try (Socket socket = new Socket()) {
            socket.connect(new InetSocketAddress("127.0.0.1", port), 500);
            return true;
        } catch (IOException e) {
            return false;
        }
    }

    /** Where people reach the server, without a slash at its end. */
    URI address() {
        return address;
    }

    @Override
    public void close() {
        process.destroy();
        process.onExit().join();
    }
}
