package remitto.server.observability;

import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.stream.DoubleStream;
import org.hawkular.agent.prometheus.text.TextPrometheusMetricsProcessor;
import org.hawkular.agent.prometheus.types.Counter;
import org.hawkular.agent.prometheus.types.Gauge;
import org.hawkular.agent.prometheus.types.Metric;
import org.hawkular.agent.prometheus.types.MetricFamily;
import org.hawkular.agent.prometheus.types.Summary;
import org.hawkular.agent.prometheus.walkers.CollectorPrometheusMetricsWalker;

/** Prometheus' text format as a parser reads it that is not ours. */
record ExpositionText(List<MetricFamily> families) {
    static ExpositionText read(String text) {
        CollectorPrometheusMetricsWalker walker = new CollectorPrometheusMetricsWalker();
        new TextPrometheusMetricsProcessor(new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)), walker)
                .walk();
        return new ExpositionText(walker.getAllMetricFamilies());
    }

    private List<Metric> metrics(String name) {
        return families.stream()
                .filter(family -> family.getName().equals(name))
                .flatMap(family -> family.getMetrics().stream())
                .map(Metric.class::cast)
                .toList();
    }

    /** The values of all of its name; of a summary, its sums. */
    List<Double> values(String name) {
        return metrics(name).stream().map(ExpositionText::value).toList();
    }

    OptionalDouble value(String name, Map<String, String> labels) {
        return metrics(name).stream()
                .filter(metric -> metric.getLabels().entrySet().containsAll(labels.entrySet()))
                .flatMapToDouble(metric -> DoubleStream.of(value(metric)))
                .findFirst();
    }

    private static double value(Metric metric) {
        if (metric instanceof Gauge gauge) {
            return gauge.getValue();
        }
        if (metric instanceof Counter counter) {
            return counter.getValue();
        }
        if (metric instanceof Summary summary) {
            return summary.getSampleSum();
        }
        throw new IllegalArgumentException("no single value: " + metric.getName());
    }
}
