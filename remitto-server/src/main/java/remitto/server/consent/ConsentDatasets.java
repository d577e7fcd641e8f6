package remitto.server.consent;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.source.SourceProblem;
import remitto.core.consent.AddressHash;
import remitto.core.consent.ConsentString;
import remitto.core.dataset.Column;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.people.source.Moments;
import remitto.server.platform.CopyParts;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.rights.mark.ErasedMarks;
import remitto.server.rights.mark.Marks;
import remitto.server.source.Sources;

/**
 * Reads datasets whose rows say what the owner of an address agreed to: in a column of yes and no, or in a consent string. Each
 * reading replaces what the one before brought, so that evidence that is gone there is gone here.
 */
@Component
public class ConsentDatasets {
    private static final Logger LOG = LoggerFactory.getLogger(ConsentDatasets.class);
    private static final String ORIGIN = "DATASET ";
    private static final Duration TIME = Duration.ofMinutes(30);
    private static final Set<String> YES = Set.of("yes", "y", "true", "t", "1");
    private static final Set<String> NO = Set.of("no", "n", "false", "f", "0");

    private final Datasets datasets;
    private final Sources sources;
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final TransactionTemplate transactions;
    private final ErasedMarks erased;
    private final Json json;
    private final Clock clock;

    ConsentDatasets(
            Datasets datasets,
            Sources sources,
            JdbcClient jdbc,
            JdbcTemplate template,
            TransactionTemplate transactions,
            ErasedMarks erased,
            Json json,
            Clock clock) {
        this.datasets = datasets;
        this.sources = sources;
        this.jdbc = jdbc;
        this.template = template;
        this.transactions = transactions;
        this.erased = erased;
        this.json = json;
        this.clock = clock;
    }

    /**
     * What the columns of a dataset say.
     *
     * @param answer column that holds yes or no, or a consent string
     * @param tcfPurposes of the framework, all of which a consent string must agree to; empty where the column holds yes or no
     * @param saidAt column that holds when; blank where a consent string says it itself
     * @param expires and {@code evidence}: columns; blank for none
     */
    record ConsentColumnsOf(
            String address,
            String purpose,
            String channel,
            String answer,
            List<Integer> tcfPurposes,
            String saidAt,
            String expires,
            String evidence,
            Optional<String> country) {}

    /**
     * A dataset that consent is read from, with what its latest reading gave.
     *
     * @param unusable rows that say nothing that can be used, by why
     */
    record ConsentDataset(
            long datasetId,
            String dataset,
            ConsentColumnsOf columns,
            Optional<Instant> readAt,
            long answers,
            Map<String, Long> unusable,
            String problem) {}

    List<ConsentDataset> all() {
        return jdbc.sql(
                        "select c.*, d.name from consent_dataset c join dataset d on d.id = c.dataset_id order by d.name")
                .query((row, number) -> {
                    Map<String, Long> unusable = new TreeMap<>();
                    json.tree(row.getString("unusable"))
                            .properties()
                            .forEach(one ->
                                    unusable.put(one.getKey(), one.getValue().asLong()));
                    return new ConsentDataset(
                            row.getLong("dataset_id"),
                            row.getString("name"),
                            json.read(row.getString("definition"), ConsentColumnsOf.class),
                            Rows.optionalTime(row, "read_at"),
                            row.getLong("answers"),
                            unusable,
                            row.getString("problem"));
                })
                .list();
    }

    void set(long dataset, ConsentColumnsOf columns) {
        List<String> there =
                definition(dataset).columns().stream().map(Column::name).toList();
        for (String name : used(columns)) {
            if (!there.contains(name)) {
                throw Problem.invalid("The dataset has no column " + name + ".");
            }
        }
        if (columns.address().isBlank() || columns.answer().isBlank()) {
            throw Problem.invalid("Choose the columns with the address and the answer.");
        }
        if (columns.saidAt().isBlank() && columns.tcfPurposes().isEmpty()) {
            throw Problem.invalid(
                    "Choose the column with the time of the answer. Without it, a yes cannot replace a no.");
        }
        jdbc.sql("""
                        insert into consent_dataset (dataset_id, definition) values (?, ?::jsonb)
                        on conflict (dataset_id) do update set definition = excluded.definition
                        """).params(dataset, json.write(columns)).update();
    }

    /** What it brought goes with it. */
    void remove(long dataset) {
        transactions.executeWithoutResult(status -> {
            jdbc.sql("delete from consent_record where origin = ?")
                    .param(ORIGIN + dataset)
                    .update();
            jdbc.sql("delete from consent_dataset where dataset_id = ?")
                    .param(dataset)
                    .update();
        });
    }

    private DatasetDefinition definition(long id) {
        Datasets.Dataset dataset = datasets.get(id);
        return datasets.version(id, dataset.liveVersion().orElse(dataset.latestVersion()));
    }

    private static List<String> used(ConsentColumnsOf columns) {
        List<String> used = new ArrayList<>(
                List.of(columns.address(), columns.answer(), columns.saidAt(), columns.expires(), columns.evidence()));
        columns.country().ifPresent(used::add);
        used.removeIf(String::isBlank);
        return used.stream().distinct().toList();
    }

    /**
     * Reads all; what goes wrong is written down with the dataset, and what was known stays.
     *
     * @return whether all went well
     */
    public boolean read() {
        boolean good = true;
        for (ConsentDataset one : all()) {
            String problem = "";
            try {
                transactions.executeWithoutResult(status -> read(one));
            } catch (SourceProblem | Problem e) {
                problem = String.valueOf(e.getMessage());
                LOG.warn("Consents of {} could not be read: {}", one.dataset(), problem);
                good = false;
            }
            jdbc.sql("update consent_dataset set problem = ? where dataset_id = ?")
                    .params(problem, one.datasetId())
                    .update();
        }
        return good;
    }

    private void read(ConsentDataset one) {
        template.execute(
                "create temp table consent_in (hash text, answer text, said_at timestamptz, expires_at timestamptz,"
                        + " evidence text) on commit drop");
        CopyParts parts = new CopyParts(template, "consent_in");
        List<String> wanted = used(one.columns());
        Reading reading = new Reading(one.columns(), wanted, erased.now());
        Datasets.Dataset dataset = datasets.get(one.datasetId());
        sources.rows(dataset.sourceId()).read(definition(dataset.id()).reading(wanted, TIME), cells -> {
            reading.row(cells, parts);
            return true;
        });
        parts.end();
        jdbc.sql("""
                        delete from consent_record c where c.origin = :origin and not exists (
                          select from consent_in i where i.hash = c.address_hash and c.purpose = :purpose and c.channel = :channel
                            and (i.answer, i.said_at, i.expires_at, i.evidence)
                              is not distinct from (c.answer, c.said_at, c.expires_at, c.evidence))
                        """)
                .param("origin", ORIGIN + one.datasetId())
                .param("purpose", one.columns().purpose())
                .param("channel", one.columns().channel())
                .update();
        jdbc.sql("""
                        insert into consent_record (purpose, channel, answer, address_hash, said_at, expires_at, evidence, origin,
                          origin_name, recorded_at)
                        select distinct :purpose, :channel, i.answer, i.hash, i.said_at, i.expires_at, i.evidence, :origin, :name,
                          :now::timestamptz
                        from consent_in i where not exists (
                          select from consent_record c where c.origin = :origin and c.address_hash = i.hash
                            and (i.answer, i.said_at, i.expires_at, i.evidence)
                              is not distinct from (c.answer, c.said_at, c.expires_at, c.evidence))
                        """)
                .param("origin", ORIGIN + one.datasetId())
                .param("name", one.dataset())
                .param("purpose", one.columns().purpose())
                .param("channel", one.columns().channel())
                .param("now", Rows.time(clock.instant()))
                .update();
        jdbc.sql("update consent_dataset set read_at = ?, answers = ?, unusable = ?::jsonb where dataset_id = ?")
                .params(Rows.time(clock.instant()), reading.answers, json.write(reading.unusable), one.datasetId())
                .update();
        template.execute("drop table consent_in");
    }

    private static final class Reading {
        private final ConsentColumnsOf columns;
        private final List<String> names;
        private final Marks marks;
        private final Map<String, Long> unusable = new TreeMap<>();
        private long answers;

        Reading(ConsentColumnsOf columns, List<String> names, Marks marks) {
            this.columns = columns;
            this.names = names;
            this.marks = marks;
        }

        private record Said(boolean yes, Optional<Instant> at, String evidence) {}

        void row(@Nullable String[] cells, CopyParts parts) {
            Set<String> hashes = AddressHash.meanings(cell(cells, columns.address()), country(cells));
            if (hashes.isEmpty()) {
                count("no e-mail address, phone number or hash");
                return;
            }
            if (marks.ofAddresses(hashes).isPresent()) {
                count("erased on request");
                return;
            }
            Optional<Said> said = columns.tcfPurposes().isEmpty() ? plain(cells) : string(cells);
            if (said.isEmpty()) {
                count(
                        columns.tcfPurposes().isEmpty()
                                ? "neither yes nor no"
                                : "no consent string, or one without this purpose");
                return;
            }
            Optional<Instant> at = said.get().at().or(() -> Moments.of(cell(cells, columns.saidAt())));
            if (at.isEmpty()) {
                count("no time of the answer");
                return;
            }
            if (said.get().yes() && hashes.size() > 1) {
                count("a yes under a phone number that does not say its country");
                return;
            }
            answers++;
            hashes.forEach(hash -> parts.row()
                    .text(hash)
                    .text(said.get().yes() ? "YES" : "NO")
                    .time(at)
                    .time(Moments.of(cell(cells, columns.expires())))
                    .text(
                            said.get().evidence().isEmpty()
                                    ? cell(cells, columns.evidence())
                                    : said.get().evidence())
                    .endRow());
        }

        private String country(@Nullable String[] cells) {
            String country = cell(cells, columns.country().orElse("")).strip();
            return country.length() == 2 ? country : "";
        }

        private Optional<Said> plain(@Nullable String[] cells) {
            String text = cell(cells, columns.answer()).toLowerCase(Locale.ROOT);
            return YES.contains(text) || NO.contains(text)
                    ? Optional.of(new Said(YES.contains(text), Optional.empty(), ""))
                    : Optional.empty();
        }

        private Optional<Said> string(@Nullable String[] cells) {
            String text = cell(cells, columns.answer());
            try {
                ConsentString read = ConsentString.read(text);
                return read.answer(new TreeSet<>(columns.tcfPurposes()))
                        .map(yes -> new Said(yes, read.saidAt(), read.form() + ": " + text));
            } catch (IllegalArgumentException e) {
                return Optional.empty();
            }
        }

        private void count(String why) {
            unusable.merge(why, 1L, Long::sum);
        }

        private String cell(@Nullable String[] cells, String column) {
            int at = column.isBlank() ? -1 : names.indexOf(column);
            String cell = at < 0 ? null : cells[at];
            return cell == null ? "" : cell.strip();
        }
    }
}
