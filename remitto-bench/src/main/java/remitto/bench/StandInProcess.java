package remitto.bench;

import java.net.ConnectException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;

/** The stand-ins in a process of their own, as they run for users. */
record StandInProcess(Process process, URI address) implements AutoCloseable {
    static StandInProcess start(Path folder) throws Exception {
        int port;
        try (ServerSocket socket = new ServerSocket(0)) {
            port = socket.getLocalPort();
        }
        Process process = new ProcessBuilder(
                        "java",
                        "-Xmx4g",
                        "-jar",
                        System.getProperty("remitto.standins.jar"),
                        folder.resolve("standins").toString(),
                        Integer.toString(port))
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("standins.log").toFile())
                .start();
        URI address = URI.create("http://127.0.0.1:" + port);
        for (int i = 0; i < 300; i++) {
            try {
                HttpClient.newHttpClient()
                        .send(HttpRequest.newBuilder(address).build(), HttpResponse.BodyHandlers.discarding());
                break;
            } catch (ConnectException e) {
                Thread.sleep(100);
            }
        }
        return new StandInProcess(process, address);
    }

    @Override
    public void close() {
        process.destroy();
    }
}
