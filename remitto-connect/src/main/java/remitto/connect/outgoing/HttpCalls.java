package remitto.connect.outgoing;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.ConnectException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.net.http.HttpRequest;
import java.nio.ByteBuffer;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Flow;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.apache.hc.client5.http.ConnectTimeoutException;
import org.apache.hc.client5.http.DnsResolver;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.config.TlsConfig;
import org.apache.hc.client5.http.impl.async.CloseableHttpAsyncClient;
import org.apache.hc.client5.http.impl.async.HttpAsyncClients;
import org.apache.hc.client5.http.impl.nio.PoolingAsyncClientConnectionManagerBuilder;
import org.apache.hc.core5.concurrent.FutureCallback;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.nio.AsyncEntityProducer;
import org.apache.hc.core5.http.nio.entity.AsyncEntityProducers;
import org.apache.hc.core5.http.nio.support.AsyncRequestBuilder;
import org.apache.hc.core5.http2.HttpVersionPolicy;
import org.apache.hc.core5.io.CloseMode;
import org.apache.hc.core5.util.TimeValue;
import org.apache.hc.core5.util.Timeout;

/**
 * Calls by HTTP/1.1. A connection is made to the addresses that were checked, and to none that the name means by then; nothing is
 * redirected, tried again or kept (cookies) behind the caller's back. Safe to share between threads.
 */
public final class HttpCalls implements AutoCloseable {
    private static final Duration CONNECT = Duration.ofSeconds(5);
    /** How many calls may be under way; destinations have limits of their own far below. */
    private static final int CONNECTIONS = 500;
    /** Tools close idle connections after a while; one that was idle this long is looked at before it is used. */
    private static final TimeValue TRUSTED = TimeValue.ofMilliseconds(500);

    private static final TimeValue IDLE = TimeValue.ofSeconds(30);

    private final CloseableHttpAsyncClient client;

    public HttpCalls(AddressGuard guard) {
        this.client = HttpAsyncClients.custom()
                .setConnectionManager(PoolingAsyncClientConnectionManagerBuilder.create()
                        .setDnsResolver(new Checked(guard))
                        .setMaxConnTotal(CONNECTIONS)
                        .setMaxConnPerRoute(CONNECTIONS)
                        .setDefaultTlsConfig(TlsConfig.custom()
                                .setVersionPolicy(HttpVersionPolicy.FORCE_HTTP_1)
                                .build())
                        .setDefaultConnectionConfig(ConnectionConfig.custom()
                                .setConnectTimeout(Timeout.of(CONNECT))
                                .setValidateAfterInactivity(TRUSTED)
                                .build())
                        .build())
                .setDefaultRequestConfig(RequestConfig.custom()
                        .setConnectionRequestTimeout(Timeout.of(CONNECT))
                        .setRedirectsEnabled(false)
                        .setProtocolUpgradeEnabled(false)
                        .build())
                .evictIdleConnections(IDLE)
                .disableAutomaticRetries()
                .disableRedirectHandling()
                .disableCookieManagement()
                .disableAuthCaching()
                .disableContentCompression()
                .setUserAgent("Remitto")
                .build();
        client.start();
    }

    /** Asks the guard for the addresses of a host each time a connection is made. */
    private record Checked(AddressGuard guard) implements DnsResolver {
        @Override
        public List<InetSocketAddress> resolve(String host, int port) throws UnknownHostException {
            return Arrays.stream(guard.resolve(host, port))
                    .map(address -> new InetSocketAddress(address, port))
                    .toList();
        }

        @Override
        public InetAddress[] resolve(String host) throws UnknownHostException {
            return guard.resolve(host, -1);
        }

        @Override
        public String resolveCanonicalHostname(String host) {
            return host;
        }
    }

    /** Nothing was sent: there was no connection to send it by. */
    public static final class NoConnection extends IOException {
        NoConnection(IOException cause) {
            super(cause.getMessage(), cause);
        }
    }

    /** The answer was not there in time. */
    public static final class TooLate extends IOException {
        TooLate(Throwable cause) {
            super("the answer took too long", cause);
        }
    }

    /**
     * @param longest until the whole answer is there; a tool that dribbles holds its caller no longer
     * @param most bytes of the answer
     * @throws RefusedAddress if the host's address may not be called
     * @throws NoConnection if nothing was sent
     * @throws IOException if it is not known whether the call was taken
     * @throws InterruptedException if the caller was told to stop waiting; the call is broken off
     */
    public HttpAnswer send(HttpRequest request, Duration longest, int most) throws IOException, InterruptedException {
        AsyncRequestBuilder builder =
                AsyncRequestBuilder.create(request.method()).setUri(request.uri());
        Optional<byte[]> body = request.bodyPublisher().map(HttpCalls::bytes).filter(bytes -> bytes.length > 0);
        request.headers().map().forEach((name, values) -> {
            if (!(name.equalsIgnoreCase("Content-Type") && body.isPresent())) {
                values.forEach(value -> builder.addHeader(name, value));
            }
        });
        body.map(bytes -> entity(request, bytes)).ifPresent(builder::setEntity);
        Future<HttpAnswer> answer = client.execute(builder.build(), new BoundedAnswer(most), nobody());
        try {
            return answer.get(longest.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException e) {
            answer.cancel(true);
            throw new TooLate(e);
        } catch (InterruptedException e) {
            answer.cancel(true);
            throw e;
        } catch (ExecutionException e) {
            throw told(e.getCause());
        }
    }

    private static AsyncEntityProducer entity(HttpRequest request, byte[] bytes) {
        return AsyncEntityProducers.create(
                bytes,
                request.headers()
                        .firstValue("Content-Type")
                        .map(ContentType::parseLenient)
                        .orElse(ContentType.APPLICATION_OCTET_STREAM));
    }

    private static IOException told(Throwable problem) {
        if (problem instanceof RefusedAddress refused) {
            return refused;
        }
        if (problem instanceof ConnectException
                || problem instanceof ConnectTimeoutException
                || problem instanceof UnknownHostException) {
            return new NoConnection((IOException) problem);
        }
        if (problem instanceof SocketTimeoutException) {
            return new TooLate(problem);
        }
        return problem instanceof IOException io ? io : new IOException(String.valueOf(problem.getMessage()), problem);
    }

    private static FutureCallback<HttpAnswer> nobody() {
        return new FutureCallback<>() {
            @Override
            public void completed(HttpAnswer result) {
                // the future has it
            }

            @Override
            public void failed(Exception problem) {
                // the future has it
            }

            @Override
            public void cancelled() {
                // whoever cancelled knows
            }
        };
    }

    /** Bodies are made of bytes or text, and come at once. */
    private static byte[] bytes(HttpRequest.BodyPublisher publisher) {
        if (publisher.contentLength() == 0) {
            return new byte[0];
        }
        Collected all = new Collected();
        publisher.subscribe(all);
        return all.bytes.toByteArray();
    }

    private static final class Collected implements Flow.Subscriber<ByteBuffer> {
        private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();

        @Override
        public void onSubscribe(Flow.Subscription subscription) {
            subscription.request(Long.MAX_VALUE);
        }

        @Override
        public void onNext(ByteBuffer part) {
            byte[] copy = new byte[part.remaining()];
            part.get(copy);
            bytes.writeBytes(copy);
        }

        @Override
        public void onError(Throwable problem) {
            throw new IllegalStateException(problem);
        }

        @Override
        public void onComplete() {
            // it is all there
        }
    }

    @Override
    public void close() {
        client.close(CloseMode.GRACEFUL);
    }
}
