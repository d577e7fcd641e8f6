package remitto.server.people.source;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import remitto.core.consent.AddressHash;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Columns;
import remitto.core.dataset.RecordKey;
import remitto.core.expectation.Finding;
import remitto.core.identity.Intake;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.core.known.Fingerprint;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.expectation.ReadFor;
import remitto.server.expectation.ReadWatch;
import remitto.server.expectation.ReadWatches;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.rights.mark.ErasedMarks;
import remitto.server.rights.mark.Marks;
import remitto.server.source.Sources;

/**
 * Reads the records of all datasets that describe people; those that are as they were are not normalised again, and those of people
 * who were erased are not taken in.
 */
@Component
public class PersonRecords {
    private static final Duration TIME = Duration.ofMinutes(30);
    private static final int REPORTED = 5_000;

    private final Datasets datasets;
    private final Sources warehouses;
    private final Json json;
    private final ErasedMarks erased;
    private final ReadWatches watches;

    PersonRecords(Datasets datasets, Sources warehouses, Json json, ErasedMarks erased, ReadWatches watches) {
        this.watches = watches;
        this.datasets = datasets;
        this.warehouses = warehouses;
        this.json = json;
        this.erased = erased;
    }

    /** What a source says about one of its values. */
    public record Aside(boolean verified, Optional<Instant> saidAt, String evidence, Optional<Instant> expires) {}

    /**
     * What a source says of a record.
     *
     * @param place of the source in the order
     * @param cells by attribute, as the source spells it; nothing for what is empty
     * @param fullName given and family name in one text, where the source says them so; blank otherwise
     * @param aside by attribute, where the source says more about the value
     * @param at when the source last changed it, where it says so
     * @param fingerprint over all of it
     * @param company key of the company it names, in the dataset that the source says
     */
    public record Said(
            int place,
            Map<String, String> cells,
            String fullName,
            Map<String, Aside> aside,
            Optional<Instant> at,
            long fingerprint,
            Optional<String> company) {}

    /**
     * What was read before of a record.
     *
     * @param normalised by attribute of all
     */
    public record Before(long fingerprint, List<String> normalised) {}

    /**
     * Records with their normalised values, and what was said of each.
     *
     * @param withoutKey rows that had no key, or one that another row had
     * @param changed records that are new or say something else than before
     * @param unexpected expectations of datasets that are not met and that stop matching, a sentence each
     */
    public record Read(
            List<PeopleSources.PeopleSource> sources,
            RecordTable table,
            Map<RecordRef, Said> said,
            long withoutKey,
            Set<RecordRef> changed,
            List<String> unexpected) {}

    /** @param attributes that values are normalised to, in this order */
    public record Request(List<PeopleSources.PeopleSource> sources, List<Attribute> attributes, boolean withoutTag) {}

    public Read read(Request request, Map<RecordRef, Before> before, RunProgress progress) {
        Reading reading = new Reading(request, before, progress);
        for (int place = 0; place < request.sources().size(); place++) {
            reading.read(request.sources().get(place), place);
        }
        return new Read(
                request.sources(),
                reading.builder.build(),
                reading.said,
                reading.withoutKey,
                reading.changed,
                reading.unexpected);
    }

    /** One read of all sources. */
    private final class Reading {
        private final Request request;
        private final Map<RecordRef, Before> before;
        private final RunProgress progress;
        private final RecordTable.Builder builder;
        private final Map<RecordRef, Said> said = new HashMap<>();
        private final Set<RecordRef> changed = new HashSet<>();
        private final Fingerprint fingerprint = new Fingerprint();
        private final Marks marks = erased.now();
        private final List<String> unexpected = new ArrayList<>();
        private long withoutKey;

        Reading(Request request, Map<RecordRef, Before> before, RunProgress progress) {
            this.request = request;
            this.before = before;
            this.progress = progress;
            this.builder = new RecordTable.Builder(request.attributes());
        }

        public void read(PeopleSources.PeopleSource source, int place) {
            Datasets.Dataset dataset = datasets.get(source.datasetId());
            DatasetDefinition definition =
                    datasets.version(dataset.id(), dataset.liveVersion().orElse(dataset.latestVersion()));
            Columns columns = new Columns(definition.columns());
            SourceRow row = new SourceRow(source, columns, definition);
            int[] keyAt = columns.keyPositions();
            Intake intake = new Intake(
                    source.columns().stream()
                            .map(PeopleSources.TiedColumn::asAttribute)
                            .toList(),
                    source.columns().stream()
                            .map(PeopleSources.TiedColumn::dateOrder)
                            .toList(),
                    request.withoutTag());
            Intake.Normalising normalising = intake.normalising();
            int[] target = intake.attributes().stream()
                    .mapToInt(attribute -> request.attributes().indexOf(attribute))
                    .toArray();
            String salt = request.attributes() + " " + request.withoutTag() + " " + json.write(source);
            String name = Long.toString(source.datasetId());
            progress.stage("reading " + source.dataset());
            ReadWatch watch = watches.begin(dataset, definition);
            warehouses.rows(dataset.sourceId()).read(definition.reading(TIME), cells -> {
                watch.see(cells);
                Optional<String> key = RecordKey.of(keyAt, cells);
                RecordRef ref = new RecordRef(name, key.orElse(""));
                if (key.isEmpty() || said.containsKey(ref)) {
                    withoutKey++;
                    return true;
                }
                if (marks.ofRecord(source.datasetId(), key.get()).isPresent()) {
                    return true;
                }
                Said one = row.said(place, cells, fingerprint.of(row.texts(salt, cells)));
                String[] normalised = normalised(ref, one, row, cells, normalising, target);
                if (isErased(normalised)) {
                    changed.remove(ref);
                    return true;
                }
                said.put(ref, one);
                builder.add(ref, normalised);
                if (said.size() % REPORTED == 0) {
                    progress.done(said.size());
                }
                return true;
            });
            watches.end(watch, ReadFor.MATCHING).stream()
                    .filter(Finding::stopsRoutes)
                    .forEach(one -> unexpected.add(one.sentenceOf(source.dataset())));
        }

        /** Whether somebody who was erased had one of its addresses. */
        private boolean isErased(String[] normalised) {
            if (marks.isEmpty()) {
                return false;
            }
            List<String> hashes = new ArrayList<>();
            for (int a = 0; a < normalised.length; a++) {
                Attribute.Kind kind = request.attributes().get(a).kind();
                if (!normalised[a].isEmpty() && (kind == Attribute.Kind.EMAIL || kind == Attribute.Kind.PHONE)) {
                    hashes.add(AddressHash.ofNormalised(normalised[a]));
                }
            }
            return marks.ofAddresses(hashes).isPresent();
        }

        private String[] normalised(
                RecordRef ref,
                Said one,
                SourceRow row,
                @Nullable String[] cells,
                Intake.Normalising normalising,
                int[] target) {
            Before known = before.get(ref);
            if (known != null
                    && known.fingerprint() == one.fingerprint()
                    && known.normalised().size() == request.attributes().size()) {
                return known.normalised().toArray(String[]::new);
            }
            changed.add(ref);
            String[] normalised = normalising.normalise(row.values(cells), row.country(cells));
            String[] all = new String[request.attributes().size()];
            java.util.Arrays.fill(all, "");
            for (int i = 0; i < target.length; i++) {
                all[target[i]] = normalised[i];
            }
            return all;
        }
    }

    /** Where a source's row says what. */
    private static final class SourceRow {
        private final PeopleSources.PeopleSource source;
        private final int[] at;
        private final List<Map<PeopleSources.Beside, Integer>> beside = new ArrayList<>();
        private final OptionalInt countryAt;
        private final OptionalInt updatedAt;
        private final OptionalInt companyAt;

        SourceRow(PeopleSources.PeopleSource source, Columns columns, DatasetDefinition definition) {
            this.source = source;
            this.at = source.columns().stream()
                    .mapToInt(tied -> position(columns, tied.column()))
                    .toArray();
            source.columns().forEach(tied -> {
                Map<PeopleSources.Beside, Integer> positions = new LinkedHashMap<>();
                tied.beside().forEach((what, column) -> positions.put(what, position(columns, column)));
                beside.add(positions);
            });
            this.countryAt = columns.position(source.countryColumn());
            this.companyAt = source.belongsTo().isPresent()
                    ? OptionalInt.of(position(columns, source.belongsTo().get().column()))
                    : OptionalInt.empty();
            Optional<Column> updated = definition.columns().stream()
                    .filter(column -> column.role() == ColumnRole.UPDATED_AT)
                    .findFirst();
            this.updatedAt =
                    updated.isPresent() ? columns.position(updated.get().name()) : OptionalInt.empty();
        }

        private int position(Columns columns, String column) {
            return columns.position(column)
                    .orElseThrow(() -> Problem.invalid("Dataset " + source.dataset() + " has no column " + column
                            + " any more. Map its columns again."));
        }

        String[] values(@Nullable String[] cells) {
            String[] values = new String[at.length];
            for (int i = 0; i < at.length; i++) {
                values[i] = text(cells, at[i]);
            }
            return values;
        }

        String country(@Nullable String[] cells) {
            String there =
                    countryAt.isPresent() ? text(cells, countryAt.getAsInt()).strip() : "";
            return there.isEmpty() ? source.country() : there;
        }

        /** Everything that a judgement or a kept value could hang on. */
        List<String> texts(String salt, @Nullable String[] cells) {
            List<String> texts = new ArrayList<>();
            texts.add(salt);
            for (int i = 0; i < at.length; i++) {
                texts.add(text(cells, at[i]));
                beside.get(i).values().forEach(position -> texts.add(text(cells, position)));
            }
            texts.add(country(cells));
            updatedAt.ifPresent(position -> texts.add(text(cells, position)));
            companyAt.ifPresent(position -> texts.add(text(cells, position)));
            return texts;
        }

        Said said(int place, @Nullable String[] cells, long fingerprint) {
            Map<String, String> spelled = new LinkedHashMap<>();
            Map<String, Aside> aside = new HashMap<>();
            String fullName = "";
            for (int i = 0; i < at.length; i++) {
                String cell = text(cells, at[i]).strip();
                String attribute = source.columns().get(i).attribute();
                if (source.columns().get(i).kind() == Attribute.Kind.FULL_NAME && fullName.isEmpty()) {
                    fullName = cell;
                }
                if (!cell.isEmpty()
                        && spelled.putIfAbsent(attribute, cell) == null
                        && !beside.get(i).isEmpty()) {
                    aside.put(attribute, aside(beside.get(i), cells));
                }
            }
            Optional<Instant> changed =
                    updatedAt.isPresent() ? Moments.of(text(cells, updatedAt.getAsInt())) : Optional.empty();
            Optional<String> company = companyAt.isPresent()
                    ? Optional.of(text(cells, companyAt.getAsInt()).strip()).filter(key -> !key.isEmpty())
                    : Optional.empty();
            return new Said(place, spelled, fullName, aside, changed, fingerprint, company);
        }

        private static Aside aside(Map<PeopleSources.Beside, Integer> positions, @Nullable String[] cells) {
            Map<PeopleSources.Beside, String> texts = new HashMap<>();
            positions.forEach(
                    (what, position) -> texts.put(what, text(cells, position).strip()));
            String verified = texts.getOrDefault(PeopleSources.Beside.VERIFIED, "");
            return new Aside(
                    Moments.of(verified).isPresent() || verified.equals("t") || verified.equalsIgnoreCase("true"),
                    Moments.of(texts.getOrDefault(PeopleSources.Beside.SAID_AT, "")),
                    texts.getOrDefault(PeopleSources.Beside.EVIDENCE, ""),
                    Moments.of(texts.getOrDefault(PeopleSources.Beside.EXPIRES, "")));
        }

        private static String text(@Nullable String[] cells, int position) {
            String cell = cells[position];
            return cell == null ? "" : cell;
        }
    }
}
