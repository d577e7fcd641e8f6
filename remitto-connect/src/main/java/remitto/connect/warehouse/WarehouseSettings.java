package remitto.connect.warehouse;

/**
 * How to reach a warehouse (PostgreSQL).
 *
 * @param tls what the connection asks of TLS
 */
public record WarehouseSettings(String host, int port, String database, String user, String password, Tls tls) {

    /** What the connection asks of TLS. */
    public enum Tls {
        OFF("disable"),
        REQUIRED("require"),
        VERIFIED("verify-full");

        private final String driverMode;

        Tls(String driverMode) {
            this.driverMode = driverMode;
        }

        String driverMode() {
            return driverMode;
        }
    }

    @Override
    public String toString() {
        return "postgresql://" + user + "@" + host + ":" + port + "/" + database;
    }
}
