package remitto.connect.profile;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Flow;
import java.util.concurrent.atomic.AtomicReference;

/** The body of an answer, up to so many bytes. One that goes on is broken off, so that no tool can fill the memory. */
final class BoundedBody implements HttpResponse.BodySubscriber<byte[]> {
    private final int most;
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final CompletableFuture<byte[]> body = new CompletableFuture<>();
    private final AtomicReference<Flow.Subscription> subscription = new AtomicReference<>();

    private BoundedBody(int most) {
        this.most = most;
    }

    static HttpResponse.BodyHandler<byte[]> ofAtMost(int bytes) {
        return info -> new BoundedBody(bytes);
    }

    @Override
    public CompletionStage<byte[]> getBody() {
        return body;
    }

    @Override
    public void onSubscribe(Flow.Subscription given) {
        if (!subscription.compareAndSet(null, given)) {
            given.cancel();
            return;
        }
        given.request(Long.MAX_VALUE);
    }

    @Override
    public void onNext(List<ByteBuffer> parts) {
        for (ByteBuffer part : parts) {
            if (bytes.size() + part.remaining() > most) {
                subscription.get().cancel();
                body.completeExceptionally(new IOException("the answer is larger than " + most + " bytes"));
                return;
            }
            byte[] copy = new byte[part.remaining()];
            part.get(copy);
            bytes.writeBytes(copy);
        }
    }

    @Override
    public void onError(Throwable problem) {
        body.completeExceptionally(problem);
    }

    @Override
    public void onComplete() {
        body.complete(bytes.toByteArray());
    }
}
