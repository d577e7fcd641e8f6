package remitto.bench;

import com.sun.management.GarbageCollectionNotificationInfo;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryUsage;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import javax.management.ListenerNotFoundException;
import javax.management.NotificationEmitter;
import javax.management.NotificationListener;
import javax.management.openmbean.CompositeData;

/** The most of the heap that was still in use after a collection. */
final class LiveMemory implements AutoCloseable {
    private static final long MEGABYTE = 1024 * 1024;
    private static final List<String> NO_HEAP = List.of("Metaspace", "Code", "Compressed");

    private final AtomicLong most = new AtomicLong();
    private final List<NotificationEmitter> collectors = new ArrayList<>();
    private final NotificationListener listener = (notification, unused) -> {
        if (notification.getUserData() instanceof CompositeData data) {
            most.accumulateAndGet(after(GarbageCollectionNotificationInfo.from(data)), Math::max);
        }
    };

    private LiveMemory() {
        ManagementFactory.getGarbageCollectorMXBeans().forEach(collector -> {
            NotificationEmitter emitter = (NotificationEmitter) collector;
            emitter.addNotificationListener(listener, null, null);
            collectors.add(emitter);
        });
    }

    static LiveMemory watch() {
        return new LiveMemory();
    }

    private static long after(GarbageCollectionNotificationInfo info) {
        return info.getGcInfo().getMemoryUsageAfterGc().entrySet().stream()
                .filter(pool -> NO_HEAP.stream().noneMatch(pool.getKey()::contains))
                .mapToLong(pool -> pool.getValue().getUsed())
                .sum();
    }

    /** Begins to watch again, from what is left after a full collection. */
    void begin() {
        System.gc();
        MemoryUsage now = ManagementFactory.getMemoryMXBean().getHeapMemoryUsage();
        most.set(now.getUsed());
    }

    /** In megabytes, since it was begun. */
    long most() {
        System.gc();
        return most.get() / MEGABYTE;
    }

    @Override
    public void close() {
        for (NotificationEmitter collector : collectors) {
            try {
                collector.removeNotificationListener(listener);
            } catch (ListenerNotFoundException e) {
                throw new IllegalStateException(e);
            }
        }
    }
}
