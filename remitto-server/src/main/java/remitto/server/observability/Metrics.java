package remitto.server.observability;

import io.micrometer.core.instrument.MultiGauge;
import io.micrometer.core.instrument.Tag;
import io.micrometer.core.instrument.Tags;
import io.micrometer.prometheusmetrics.PrometheusMeterRegistry;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import remitto.server.platform.Lane;
import remitto.server.platform.LaneDataSource;

/** The metrics of this process, and those of all processes that the database tells. */
@Component
class Metrics {
    private static final Logger LOG = LoggerFactory.getLogger(Metrics.class);

    private final PrometheusMeterRegistry registry;
    private final Measurements measurements;
    private final Map<Measurements.Metric, MultiGauge> gauges = new LinkedHashMap<>();

    Metrics(PrometheusMeterRegistry registry, Measurements measurements, LaneDataSource lanes) {
        this.registry = registry;
        this.measurements = measurements;
        for (Lane lane : Lane.values()) {
            lanes.measure(lane, registry);
        }
        Measurements.ALL.forEach(metric -> gauges.put(
                metric,
                MultiGauge.builder(metric.name()).description(metric.words()).register(registry)));
    }

    /** Everything in Prometheus' text format, with the database asked anew. What it cannot tell is left out. */
    synchronized String text() {
        gauges.forEach((metric, gauge) -> gauge.register(rows(metric), true));
        return registry.scrape();
    }

    private List<MultiGauge.Row<?>> rows(Measurements.Metric metric) {
        try {
            return Lane.QUESTIONS.call(() -> measurements.now(metric)).stream()
                    .<MultiGauge.Row<?>>map(one -> MultiGauge.Row.of(tags(one.labels()), one.value()))
                    .toList();
        } catch (DataAccessException e) {
            LOG.warn("{} could not be read: {}", metric.name(), e.getMessage());
            return List.of();
        }
    }

    private static Tags tags(Map<String, String> labels) {
        return Tags.of(labels.entrySet().stream()
                .map(label -> Tag.of(label.getKey(), label.getValue()))
                .toList());
    }
}
