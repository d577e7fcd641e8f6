package remitto.connect.database;

import java.util.LinkedHashMap;
import java.util.Map;

/** Queries that a server has parsed by themselves, so that it need not be asked before every reading. Safe for many threads. */
public final class CheckedTexts {
    private static final int MOST = 2_000;

    private final Map<String, Boolean> checked = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Boolean> eldest) {
            return size() > MOST;
        }
    };

    synchronized boolean contains(Object where, String sql) {
        return checked.containsKey(key(where, sql));
    }

    synchronized void add(Object where, String sql) {
        checked.put(key(where, sql), true);
    }

    private static String key(Object where, String sql) {
        return where + "\n" + sql;
    }
}
