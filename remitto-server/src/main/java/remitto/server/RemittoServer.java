package remitto.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;

/** The server process. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class RemittoServer {
    public static void main(String[] args) {
        SpringApplication.run(RemittoServer.class, args);
    }
}
