package remitto.server.asker;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A database connection whose query ends when whoever asked has gone. It is not used again after that: the word to end can arrive after
 * the query it was meant for.
 */
public final class AskedConnection implements InvocationHandler {
    private static final Logger LOG = LoggerFactory.getLogger(AskedConnection.class);

    private final Connection connection;
    private final Consumer<Connection> discard;
    private final AtomicBoolean cancelled = new AtomicBoolean();
    private final Askers.UnderWay underWay;

    private AskedConnection(Connection connection, Askers askers, Consumer<Connection> discard) throws SQLException {
        this.connection = connection;
        this.discard = discard;
        PGConnection driver = connection.unwrap(PGConnection.class);
        this.underWay = askers.begin(() -> cancel(driver));
    }

    /** @param discard takes a connection out of its pool */
    public static Connection of(Connection connection, Askers askers, Consumer<Connection> discard)
            throws SQLException {
        return (Connection) Proxy.newProxyInstance(
                AskedConnection.class.getClassLoader(),
                new Class<?>[] {Connection.class},
                new AskedConnection(connection, askers, discard));
    }

    private void cancel(PGConnection driver) {
        cancelled.set(true);
        try {
            driver.cancelQuery();
        } catch (SQLException e) {
            LOG.warn("A query that nobody waits for cannot be ended: {}", e.toString());
        }
    }

    @Override
    public @Nullable Object invoke(Object proxy, Method method, @Nullable Object @Nullable [] arguments)
            throws Throwable {
        if (method.getName().equals("close")) {
            underWay.close();
            if (cancelled.get()) {
                discard.accept(connection);
            }
        }
        try {
            return method.invoke(connection, arguments);
        } catch (InvocationTargetException e) {
            throw e.getCause();
        }
    }
}
