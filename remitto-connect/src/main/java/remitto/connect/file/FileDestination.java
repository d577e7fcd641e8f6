package remitto.connect.file;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CharsetEncoder;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.zip.GZIPOutputStream;
import org.apache.commons.codec.digest.DigestUtils;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Finding;
import remitto.connect.destination.ListMaking;
import remitto.connect.destination.Listing;
import remitto.connect.destination.WholeFiles;
import remitto.connect.destination.Writing;
import remitto.connect.profile.Profile;
import remitto.connect.profile.Setup;
import remitto.core.destination.ObjectDescription;
import remitto.core.file.FileColumn;
import remitto.core.file.FileForm;
import remitto.core.file.FileLayout;
import remitto.core.value.Value;

/** Files as laid out, one for each run of a route. What was delivered is not read again. Safe to share between threads. */
public final class FileDestination implements Destination, WholeFiles, Setup {
    private final Place place;
    private final List<FileLayout> layouts;

    FileDestination(Place place, List<FileLayout> layouts) {
        this.place = place;
        this.layouts = List.copyOf(layouts);
    }

    @Override
    public String check() {
        return place.check();
    }

    @Override
    public List<ObjectSummary> objects() {
        return layouts.stream()
                .map(layout -> new ObjectSummary(layout.name(), layout.name(), layout.people(), false))
                .toList();
    }

    @Override
    public FileLayout layout(String object) {
        return layouts.stream()
                .filter(layout -> layout.name().equals(object))
                .findFirst()
                .orElseThrow(() -> new DestinationProblem(Kind.REFUSED, "No file " + object + " is defined here."));
    }

    @Override
    public ObjectDescription describe(String object) {
        return layout(object).description();
    }

    /** What was delivered is not read again. */
    @Override
    public Optional<Finding> finding() {
        return Optional.empty();
    }

    @Override
    public Optional<Listing> listing() {
        return Optional.empty();
    }

    @Override
    public Optional<Writing> writing() {
        return Optional.empty();
    }

    @Override
    public Optional<WholeFiles> files() {
        return Optional.of(this);
    }

    @Override
    public Optional<ListMaking> listMaking() {
        return Optional.empty();
    }

    @Override
    public Optional<Answers> answers() {
        return Optional.empty();
    }

    @Override
    public Optional<String> recordPage() {
        return Optional.empty();
    }

    @Override
    public ListFacts listFacts(String object) {
        return ListFacts.NOTHING;
    }

    @Override
    public List<Account> accounts() {
        return List.of();
    }

    @Override
    public Found ask(Profile.Ask how) {
        return new Found(false, "");
    }

    @Override
    public List<String> unspellable(String object, FileRow row) {
        FileLayout layout = layout(object);
        if (!(layout.form() instanceof FileForm.Csv csv)
                || csv.encoding().charset().startsWith("UTF")) {
            return List.of();
        }
        CharsetEncoder encoder = RowWriter.strict(csv.encoding());
        List<String> faults = new ArrayList<>();
        for (FileColumn column : layout.columns()) {
            String text = RowWriter.text(csv, row.values().getOrDefault(column.name(), Value.EMPTY));
            if (!encoder.canEncode(text)) {
                faults.add(column.name() + ": \"" + text + "\" cannot be written in "
                        + csv.encoding().charset());
            }
        }
        return faults;
    }

    @Override
    public DeliveredFile deliver(FileRequest request, Rows rows) {
        FileLayout layout = layout(request.object());
        String name = layout.fileName()
                .of(
                        request.route(),
                        request.runId(),
                        request.began(),
                        ZoneId.of(layout.zone()),
                        request.number(),
                        layout.ending());
        String path = layout.folder().isBlank() ? name : layout.folder().replaceAll("/+$", "") + "/" + name;
        AtomicLong written = new AtomicLong();
        AtomicLong bytes = new AtomicLong();
        MessageDigest digest = DigestUtils.getSha256Digest();
        place.put(path, out -> {
            digest.reset();
            Counting counting = new Counting(new DigestOutputStream(out, digest));
            OutputStream whole = layout.gzip() ? new GZIPOutputStream(counting) : counting;
            RowWriter writer = new RowWriter(layout, whole);
            try {
                rows.each(row -> write(writer, row));
            } catch (java.io.UncheckedIOException e) {
                throw e.getCause();
            }
            writer.finish();
            if (whole instanceof GZIPOutputStream zipped) {
                zipped.finish();
            }
            counting.flush();
            written.set(writer.rows());
            bytes.set(counting.bytes);
        });
        return new DeliveredFile(
                path, written.get(), bytes.get(), HexFormat.of().formatHex(digest.digest()));
    }

    private static void write(RowWriter writer, FileRow row) {
        try {
            writer.row(row);
        } catch (CharacterCodingException e) {
            throw new DestinationProblem(
                    Kind.REFUSED,
                    "A record that was sent before cannot be written in the file's encoding; choose another encoding.");
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static final class Counting extends FilterOutputStream {
        private long bytes;

        Counting(OutputStream out) {
            super(out);
        }

        @Override
        public void write(int one) throws IOException {
            out.write(one);
            bytes++;
        }

        @Override
        public void write(byte[] some, int from, int length) throws IOException {
            out.write(some, from, length);
            bytes += length;
        }
    }
}
