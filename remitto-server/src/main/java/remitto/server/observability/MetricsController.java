package remitto.server.observability;

import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** Metrics for a monitor. */
@RestController
class MetricsController {
    private static final MediaType TEXT = MediaType.parseMediaType("text/plain;version=0.0.4;charset=utf-8");

    private final Metrics metrics;

    MetricsController(Metrics metrics) {
        this.metrics = metrics;
    }

    /** All metrics in Prometheus' text format, version 0.0.4. Names and ids of definitions stand in it, and nothing about people. */
    @GetMapping(path = "/api/metrics", produces = MediaType.TEXT_PLAIN_VALUE)
    ResponseEntity<String> metrics() {
        return ResponseEntity.ok().contentType(TEXT).body(metrics.text());
    }
}
