package remitto.server.definition;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import java.lang.reflect.Constructor;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.function.Supplier;

/** Makes records of any shape up, with texts that are awkward in YAML. What a record refuses is made up again. */
final class RandomRecords {
    private static final List<String> TEXTS = List.of(
            "",
            " ",
            "name",
            "yes",
            "NO",
            "null",
            "~",
            "0123",
            "1e3",
            "2026-12-01",
            "12:30:45",
            "- no item",
            "a: b",
            "# no comment",
            "\"quoted\" and 'so'",
            "trailing space ",
            "select a,\n  b\nfrom t -- c: d\nwhere x = '#'\n",
            "two\n\nlines\n",
            "  indented\nfirst line",
            "tab\there",
            "æøå 日本 \uD83D\uDEA2",
            "line\u2028separator",
            "{braces} [brackets] *star &and !tag %per @at `tick`",
            "back\\slash",
            "\uFEFFmark");
    private static final List<String> PLAIN =
            List.of("Europe/Oslo", "UTC", "town", "a_column", "x-1", "email", "recipients");
    private static final int DEEPEST = 5;

    private static final int MOST = 3_000;

    private final Random random;
    private int budget;

    RandomRecords(long seed) {
        this.random = new Random(seed);
    }

    /** Absent when too much of what was made up was refused. */
    <T extends Record> Optional<T> of(Class<T> type) {
        budget = MOST;
        try {
            return Optional.of(type.cast(any(type, 0)));
        } catch (IllegalArgumentException | TooMany refused) {
            return Optional.empty();
        }
    }

    private static final class TooMany extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    private Object any(Type type, int depth) {
        if (type instanceof ParameterizedType generic) {
            Type[] of = generic.getActualTypeArguments();
            Class<?> raw = (Class<?>) generic.getRawType();
            if (raw == Optional.class) {
                return random.nextBoolean() || depth > DEEPEST ? Optional.empty() : Optional.of(any(of[0], depth + 1));
            }
            if (raw == Map.class) {
                Map<Object, Object> map = new LinkedHashMap<>();
                some(depth).forEach(at -> map.put(any(of[0], depth + 1), any(of[1], depth + 1)));
                return map;
            }
            List<Object> items = new ArrayList<>();
            some(depth).forEach(at -> items.add(any(of[0], depth + 1)));
            return raw == Set.class ? new LinkedHashSet<>(items) : items;
        }
        return plain((Class<?>) type, depth);
    }

    private List<Integer> some(int depth) {
        int many = depth > DEEPEST ? 0 : random.nextInt(4);
        return java.util.stream.IntStream.range(0, many).boxed().toList();
    }

    private Object plain(Class<?> type, int depth) {
        if (type == String.class) {
            List<String> from = random.nextInt(3) == 0 ? TEXTS : PLAIN;
            return from.get(random.nextInt(from.size()));
        }
        if (type == boolean.class) {
            return random.nextBoolean();
        }
        if (type == int.class) {
            return random.nextInt(1, 40);
        }
        if (type == long.class || type == Long.class) {
            return random.nextLong(1, 1000);
        }
        if (type == double.class) {
            return random.nextInt(0, 100) / 100.0;
        }
        if (type == BigDecimal.class) {
            return BigDecimal.valueOf(random.nextInt(0, 5000), random.nextInt(0, 3));
        }
        if (type == OptionalInt.class) {
            return random.nextBoolean() ? OptionalInt.empty() : OptionalInt.of(random.nextInt(1, 99));
        }
        if (type == Integer.class) {
            return random.nextInt(1, 99);
        }
        if (type == LocalDate.class) {
            return LocalDate.of(2026, random.nextInt(1, 13), random.nextInt(1, 29));
        }
        if (type == LocalTime.class) {
            return LocalTime.of(random.nextInt(24), random.nextInt(60));
        }
        if (type == Instant.class) {
            return Instant.ofEpochSecond(random.nextInt(2_000_000_000));
        }
        if (type == Duration.class) {
            return Duration.ofMinutes(random.nextInt(1, 10_000));
        }
        if (type.isEnum()) {
            Object[] all = type.getEnumConstants();
            return all[random.nextInt(all.length)];
        }
        if (type.isAnnotationPresent(JsonSubTypes.class)) {
            JsonSubTypes.Type[] cases = type.getAnnotation(JsonSubTypes.class).value();
            return again(() -> plain(cases[depth > DEEPEST ? 0 : random.nextInt(cases.length)].value(), depth + 1));
        }
        if (type.isRecord()) {
            return again(() -> record(type, depth));
        }
        throw new AssertionError("no way to make up a " + type);
    }

    private Object again(Supplier<Object> made) {
        for (int i = 0; i < 12; i++) {
            try {
                return made.get();
            } catch (IllegalArgumentException refused) {
                continue;
            }
        }
        throw new IllegalArgumentException("refused whatever was made up");
    }

    private Object record(Class<?> type, int depth) {
        try {
            if (--budget < 0) {
                throw new TooMany();
            }
            RecordComponent[] components = type.getRecordComponents();
            Class<?>[] types = new Class<?>[components.length];
            Object[] values = new Object[components.length];
            for (int i = 0; i < components.length; i++) {
                types[i] = components[i].getType();
                values[i] = any(components[i].getGenericType(), depth + 1);
            }
            Constructor<?> constructor = type.getDeclaredConstructor(types);
            constructor.setAccessible(true);
            return constructor.newInstance(values);
        } catch (InvocationTargetException e) {
            if (e.getCause() instanceof RuntimeException refused) {
                throw new IllegalArgumentException(refused);
            }
            throw new AssertionError(e);
        } catch (ReflectiveOperationException e) {
            throw new AssertionError(e);
        }
    }
}
