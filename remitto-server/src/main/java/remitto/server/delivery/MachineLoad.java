package remitto.server.delivery;

import com.sun.management.OperatingSystemMXBean;
import java.lang.management.ManagementFactory;
import org.springframework.stereotype.Component;

/** How busy the machine is. */
@Component
class MachineLoad {
    /** Of one processor. */
    private static final double ENOUGH = 0.5;

    private final OperatingSystemMXBean system = (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();

    /** Whether half a processor or more was idle since this was asked last. */
    boolean hasTime() {
        return (1 - system.getCpuLoad()) * system.getAvailableProcessors() >= ENOUGH;
    }
}
