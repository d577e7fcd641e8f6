package remitto.server.run;

import com.sun.management.OperatingSystemMXBean;
import java.lang.management.ManagementFactory;
import org.springframework.stereotype.Component;

/** How busy the machine is. */
@Component
class MachineLoad {
    private static final double BUSY = 0.85;

    private final OperatingSystemMXBean system = (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();

    /** Whether its processors had time left since this was asked last. */
    boolean hasTime() {
        return system.getCpuLoad() < BUSY;
    }
}
