package remitto.core.expression;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelIssue;
import dev.cel.common.CelOptions;
import dev.cel.common.CelValidationException;
import dev.cel.common.ast.CelExpr.ExprKind.Kind;
import dev.cel.common.navigation.CelNavigableAst;
import dev.cel.common.navigation.CelNavigableExpr;
import dev.cel.common.types.CelType;
import dev.cel.common.types.NullableType;
import dev.cel.common.types.SimpleType;
import dev.cel.common.values.NullValue;
import dev.cel.compiler.CelCompilerBuilder;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.extensions.CelExtensions;
import dev.cel.extensions.CelStringExtensions;
import dev.cel.extensions.CelStringExtensions.Function;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/**
 * An expression in the Common Expression Language (cel.dev, language definition v0.25), checked against the
 * columns of a dataset. Every column is a variable of its name that may be null: text is string, integer is
 * int, decimal is double, boolean is bool, date (midnight UTC) and timestamp are timestamp.
 *
 * <p>Safe to share between threads.
 */
public final class CompiledExpression {
    /** Steps of all loops of one evaluation together, nested ones multiplied. */
    private static final int MOST_ITERATIONS = 2_000;

    private static final int LONGEST_SOURCE = 10_000;
    private static final int DEEPEST = 60;
    /** Without those that make texts of any size; {@link BoundedTexts} has them. */
    private static final CelStringExtensions STRINGS = CelExtensions.strings(Arrays.stream(Function.values())
            .filter(one -> one != Function.REPLACE && one != Function.JOIN)
            .toArray(Function[]::new));

    private static final CelOptions OPTIONS = CelOptions.current()
            .enableHeterogeneousNumericComparisons(true)
            .comprehensionMaxIterations(MOST_ITERATIONS)
            .maxExpressionCodePointSize(LONGEST_SOURCE)
            .maxParseRecursionDepth(DEEPEST)
            .build();
    private static final CelRuntime RUNTIME = CelRuntimeFactory.plannerRuntimeBuilder()
            .setOptions(OPTIONS)
            .addLibraries(STRINGS)
            .addFunctionBindings(
                    Functions.all().stream().map(Functions.Documented::binding).toList())
            .addFunctionBindings(BoundedTexts.bindings())
            .build();

    private final CelRuntime.Program program;
    private final Set<String> columns;

    private CompiledExpression(CelRuntime.Program program, Set<String> columns) {
        this.program = program;
        this.columns = columns;
    }

    /** A fault in the text of an expression. Line counts from 1, column from 0. */
    public record Fault(int line, int column, String message) {}

    /** Either a usable expression, or the faults that keep it from being one. */
    public sealed interface Compilation {
        record Done(CompiledExpression expression, String type) implements Compilation {}

        record Faulty(List<Fault> faults) implements Compilation {}
    }

    /** Checks and compiles; takes some milliseconds, so the result is to be kept. */
    public static Compilation compile(String text, Columns columns) {
        CelCompilerBuilder builder = CelCompilerFactory.standardCelCompilerBuilder()
                .setOptions(OPTIONS)
                .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
                .addLibraries(STRINGS)
                .addFunctionDeclarations(Functions.all().stream()
                        .map(Functions.Documented::declaration)
                        .toList())
                .addFunctionDeclarations(BoundedTexts.declarations());
        for (var column : columns.list()) {
            if (column.name().matches("[A-Za-z_][A-Za-z0-9_]*")) {
                builder.addVar(column.name(), NullableType.create(type(column.type())));
            }
        }
        var result = builder.build().compile(text);
        if (result.hasError()) {
            return new Compilation.Faulty(
                    result.getErrors().stream().map(CompiledExpression::fault).toList());
        }
        try {
            CelAbstractSyntaxTree tree = result.getAst();
            var expression = new CompiledExpression(RUNTIME.createProgram(tree), variables(tree, columns));
            return new Compilation.Done(expression, tree.getResultType().name());
        } catch (CelValidationException | CelEvaluationException e) {
            return new Compilation.Faulty(List.of(new Fault(1, 0, firstLine(e))));
        }
    }

    /** Names of the columns the expression reads. */
    public Set<String> columns() {
        return columns;
    }

    /** The value for one row; unusable if it fails on this row. */
    public Shaped evaluate(Row row) {
        Map<String, Object> bindings = new HashMap<>();
        try {
            for (String column : columns) {
                bindings.put(column, bind(row.value(column), typeOf(row, column)));
            }
            return convert(program.eval(bindings));
        } catch (CelEvaluationException | ColumnType.UnreadableCell | ArithmeticException | Functions.Unfit e) {
            return new Shaped.Unusable("the expression failed: " + reason(e));
        }
    }

    private static Set<String> variables(CelAbstractSyntaxTree tree, Columns columns) {
        return CelNavigableAst.fromAst(tree)
                .getRoot()
                .allNodes()
                .map(CelNavigableExpr::expr)
                .filter(node -> node.getKind() == Kind.IDENT)
                .map(node -> node.ident().name())
                .filter(name -> columns.find(name).isPresent())
                .collect(Collectors.toUnmodifiableSet());
    }

    private static CelType type(ColumnType type) {
        return switch (type) {
            case TEXT -> SimpleType.STRING;
            case INTEGER -> SimpleType.INT;
            case DECIMAL -> SimpleType.DOUBLE;
            case BOOLEAN -> SimpleType.BOOL;
            case DATE, TIMESTAMP -> SimpleType.TIMESTAMP;
        };
    }

    private static ColumnType typeOf(Row row, String column) {
        return row.columns().find(column).orElseThrow().type();
    }

    private static Object bind(Value value, ColumnType type) {
        if (value instanceof Value.Missing || value instanceof Value.Empty) {
            return NullValue.NULL_VALUE;
        }
        if (value instanceof Value.Text text) {
            if (text.text().length() > BoundedTexts.LONGEST) {
                throw new Functions.Unfit("a text is longer than " + BoundedTexts.LONGEST + " characters");
            }
            return text.text();
        }
        if (value instanceof Value.Decimal decimal) {
            return type == ColumnType.INTEGER
                    ? (Object) decimal.number().longValueExact()
                    : (Object) decimal.number().doubleValue();
        }
        if (value instanceof Value.Truth truth) {
            return truth.truth();
        }
        if (value instanceof Value.Day day) {
            return day.day().atStartOfDay(ZoneOffset.UTC).toInstant();
        }
        if (value instanceof Value.Moment moment) {
            return moment.instant();
        }
        throw new IllegalArgumentException("no binding for " + value);
    }

    private static Shaped convert(Object result) {
        if (result instanceof NullValue) {
            return new Shaped.Usable(Value.EMPTY);
        }
        if (result instanceof String text) {
            return text.length() <= BoundedTexts.LONGEST
                    ? new Shaped.Usable(new Value.Text(text))
                    : new Shaped.Unusable("the expression gave more than " + BoundedTexts.LONGEST + " characters");
        }
        if (result instanceof Boolean truth) {
            return new Shaped.Usable(new Value.Truth(truth));
        }
        if (result instanceof Long number) {
            return new Shaped.Usable(Value.number(number));
        }
        if (result instanceof Double number) {
            return Double.isFinite(number)
                    ? new Shaped.Usable(Value.number(BigDecimal.valueOf(number)))
                    : new Shaped.Unusable("the expression gave " + number + ", which is not a number");
        }
        if (result instanceof Instant instant) {
            return new Shaped.Usable(new Value.Moment(instant));
        }
        if (result instanceof List<?> list) {
            List<Shaped> items = list.stream().map(CompiledExpression::convert).toList();
            Optional<Shaped> bad = items.stream()
                    .filter(item -> item instanceof Shaped.Unusable)
                    .findFirst();
            return bad.orElseGet(() -> new Shaped.Usable(new Value.Items(
                    items.stream().map(item -> ((Shaped.Usable) item).value()).toList())));
        }
        return new Shaped.Unusable(
                "the expression gave a " + result.getClass().getSimpleName() + ", which no destination field takes");
    }

    private static Fault fault(CelIssue issue) {
        return new Fault(
                Math.max(1, issue.getSourceLocation().getLine()),
                Math.max(0, issue.getSourceLocation().getColumn()),
                issue.getMessage());
    }

    /** What a function of ours said, where one failed. */
    private static String reason(Exception e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof Functions.Unfit unfit) {
                return String.valueOf(unfit.getMessage());
            }
        }
        return firstLine(e);
    }

    private static String firstLine(Exception e) {
        String message = e.getMessage();
        return message == null
                ? e.getClass().getSimpleName()
                : message.lines().findFirst().orElse("");
    }
}
