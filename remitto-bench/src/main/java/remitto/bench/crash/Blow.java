package remitto.bench.crash;

import java.util.Random;
import java.util.concurrent.TimeUnit;

/** What befalls the rig in a round. Each puts back what it broke, after a while. */
enum Blow {
    KILL_SERVER {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            CrashRig.Ship ship = either(rig, random);
            ship.process().kill();
            idle(random, 1_500);
            ship.process().start();
        }
    },
    KILL_BOTH_SERVERS {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            for (CrashRig.Ship ship : rig.servers) {
                ship.process().kill();
            }
            for (CrashRig.Ship ship : rig.servers) {
                ship.process().start();
                idle(random, 2_000);
            }
        }
    },
    KILL_TOOLS {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            rig.standIns.kill();
            idle(random, 1_500);
            rig.standIns.start();
            rig.awaitDesks();
            rig.faults(CrashRun.FAULTS);
        }
    },
    KILL_DATABASE {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            rig.cluster.kill();
            idle(random, 1_500);
            rig.cluster.start();
        }
    },
    /** Longer than it takes the other to think it dead. */
    PAUSE_SERVER {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            CrashRig.Ship ship = rig.servers.get(0);
            ship.process().pause();
            TimeUnit.SECONDS.sleep(14 + random.nextInt(20));
            ship.process().resume();
        }
    },
    PAUSE_DATABASE {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            rig.cluster.pause();
            TimeUnit.SECONDS.sleep(8 + random.nextInt(12));
            rig.cluster.resume();
        }
    },
    PAUSE_TOOLS {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            rig.standIns.pause();
            TimeUnit.SECONDS.sleep(3 + random.nextInt(9));
            rig.standIns.resume();
        }
    },
    /** One server's clock jumps, and while it is off, the other server is killed. */
    STEP_CLOCK {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            int first = random.nextInt(2);
            rig.servers.get(first).setClock((random.nextBoolean() ? 1 : -1) * (long) (20 + random.nextInt(1_200)));
            idle(random, 500);
            CrashRig.Ship other = rig.servers.get(1 - first);
            other.process().kill();
            idle(random, 1_500);
            other.process().start();
        }
    },
    /** The network between a server and the database falls apart for longer than a lease lasts. */
    CUT_OFF {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            CrashRig.Ship ship = rig.servers.get(0);
            ship.strait().shut();
            TimeUnit.SECONDS.sleep(12 + random.nextInt(10));
            ship.strait().open();
        }
    },
    FULL_DISK {
        @Override
        void strike(CrashRig rig, Random random) throws Exception {
            rig.disk.orElseThrow().fill();
            TimeUnit.SECONDS.sleep(4 + random.nextInt(8));
            rig.disk.orElseThrow().free();
            rig.cluster.startIfItStopped();
        }
    };

    abstract void strike(CrashRig rig, Random random) throws Exception;

    /** Whether it stops something and lets it go on, rather than end it. */
    boolean isPause() {
        return this == PAUSE_SERVER || this == PAUSE_DATABASE || this == PAUSE_TOOLS || this == CUT_OFF;
    }

    private static CrashRig.Ship either(CrashRig rig, Random random) {
        return rig.servers.get(random.nextInt(2));
    }

    private static void idle(Random random, int most) throws InterruptedException {
        TimeUnit.MILLISECONDS.sleep(random.nextInt(most));
    }
}
