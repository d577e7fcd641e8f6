package remitto.connect.rowfile;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Counts the bytes that are read. Not safe to share between threads. */
public final class CountedInput extends FilterInputStream {
    private long bytes;

    public CountedInput(InputStream in) {
        super(in);
    }

    public long bytes() {
        return bytes;
    }

    @Override
    public int read() throws IOException {
        int one = super.read();
        bytes += one < 0 ? 0 : 1;
        return one;
    }

    @Override
    public int read(byte[] some, int from, int length) throws IOException {
        int read = super.read(some, from, length);
        bytes += Math.max(0, read);
        return read;
    }
}
