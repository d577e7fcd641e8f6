package remitto.connect.outgoing;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.apache.hc.client5.http.async.methods.AbstractBinResponseConsumer;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpResponse;

/** Reads an answer up to so many bytes. One that goes on is broken off, so that no tool can fill the memory. */
final class BoundedAnswer extends AbstractBinResponseConsumer<HttpAnswer> {
    private static final int STEP = 64 * 1024;

    private final int most;
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final Map<String, List<String>> headers = new HashMap<>();
    private int status;

    BoundedAnswer(int most) {
        this.most = most;
    }

    @Override
    protected void start(HttpResponse response, ContentType contentType) {
        status = response.getCode();
        response.headerIterator().forEachRemaining(header -> headers.computeIfAbsent(
                        header.getName().toLowerCase(Locale.ROOT), name -> new ArrayList<>())
                .add(String.valueOf(header.getValue())));
    }

    @Override
    protected HttpAnswer buildResult() {
        return new HttpAnswer(status, headers, bytes.toByteArray());
    }

    @Override
    protected int capacityIncrement() {
        return STEP;
    }

    @Override
    protected void data(ByteBuffer part, boolean last) throws IOException {
        if (bytes.size() + part.remaining() > most) {
            throw new IOException("the answer is larger than " + most + " bytes");
        }
        byte[] copy = new byte[part.remaining()];
        part.get(copy);
        bytes.writeBytes(copy);
    }

    @Override
    public void releaseResources() {
        // the bytes go with this object
    }
}
