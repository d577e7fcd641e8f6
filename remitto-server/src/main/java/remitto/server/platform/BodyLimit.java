package remitto.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * How large the body of a request may be: little for a sign-in, which anybody can ask for; twenty megabytes for the files of all
 * definitions; eleven for a call of a receiver, nine for a part of an upload; two otherwise.
 */
public final class BodyLimit extends OncePerRequestFilter {
    private static final long SIGN_IN = 4_096;
    private static final long DEFINITIONS = 20L * 1024 * 1024;
    /** A part of an upload. */
    private static final long PART = 9L * 1024 * 1024;

    /** The most that any receiver takes; each has a bound of its own. */
    private static final long CALL = 11L * 1024 * 1024;

    private static final long USUAL = 2L * 1024 * 1024;

    /** The body goes on where it should have ended. */
    public static final class TooLarge extends IOException {
        private static final long serialVersionUID = 1L;

        TooLarge() {
            super("The request is larger than this address takes.");
        }
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        String type = request.getContentType();
        return type != null && type.toLowerCase(java.util.Locale.ROOT).startsWith("multipart/");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        long most =
                most(request.getRequestURI().substring(request.getContextPath().length()));
        if (request.getContentLengthLong() > most) {
            refuse(response);
        } else {
            chain.doFilter(new Limited(request, most), response);
        }
    }

    private static long most(String path) {
        if (path.startsWith("/api/session")) {
            return SIGN_IN;
        }
        if (path.matches("/api/sources/[0-9]+/uploads")) {
            return PART;
        }
        if (path.startsWith("/in/")) {
            return CALL;
        }
        return path.startsWith("/api/definitions/") ? DEFINITIONS : USUAL;
    }

    private static void refuse(HttpServletResponse response) throws IOException {
        response.setStatus(HttpStatus.CONTENT_TOO_LARGE.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.getOutputStream().write("""
                {"title":"Content Too Large","status":413,"detail":"The request is larger than this address takes.",\
                "code":"content-too-large"}""".getBytes(StandardCharsets.UTF_8));
    }

    /** For a body that does not say how long it is. */
    private static final class Limited extends HttpServletRequestWrapper {
        private final long most;

        Limited(HttpServletRequest request, long most) {
            super(request);
            this.most = most;
        }

        @Override
        public ServletInputStream getInputStream() throws IOException {
            return new LimitedStream(super.getInputStream(), most);
        }

        @Override
        public BufferedReader getReader() throws IOException {
            return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
        }
    }

    private static final class LimitedStream extends ServletInputStream {
        private final ServletInputStream in;
        private long left;

        LimitedStream(ServletInputStream in, long most) {
            this.in = in;
            this.left = most;
        }

        @Override
        public int read() throws IOException {
            int read = in.read();
            counted(read < 0 ? 0 : 1);
            return read;
        }

        @Override
        public int read(byte[] into, int from, int length) throws IOException {
            int read = in.read(into, from, length);
            counted(Math.max(0, read));
            return read;
        }

        private void counted(int bytes) throws TooLarge {
            left -= bytes;
            if (left < 0) {
                throw new TooLarge();
            }
        }

        @Override
        public boolean isFinished() {
            return in.isFinished();
        }

        @Override
        public boolean isReady() {
            return in.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
            in.setReadListener(listener);
        }
    }
}
