package remitto.core.expression;

import dev.cel.common.CelFunctionDecl;
import dev.cel.common.CelOverloadDecl;
import dev.cel.common.types.ListType;
import dev.cel.common.types.SimpleType;
import dev.cel.runtime.CelFunctionBinding;
import java.util.List;

/**
 * {@code replace} and {@code join} as in CEL's string library, with a bound on what they give. The library's own make a text of any size:
 * replacing the empty text within itself twice over fills the memory from a few hundred characters.
 */
final class BoundedTexts {
    /** Characters of a text that goes into an expression, or comes out of any step of it. */
    static final int LONGEST = 64 * 1024;

    private static final ListType TEXTS = ListType.create(SimpleType.STRING);

    private BoundedTexts() {}

    static List<CelFunctionDecl> declarations() {
        return List.of(
                CelFunctionDecl.newFunctionDeclaration(
                        "replace",
                        CelOverloadDecl.newMemberOverload(
                                "remitto_replace",
                                SimpleType.STRING,
                                SimpleType.STRING,
                                SimpleType.STRING,
                                SimpleType.STRING),
                        CelOverloadDecl.newMemberOverload(
                                "remitto_replace_some",
                                SimpleType.STRING,
                                SimpleType.STRING,
                                SimpleType.STRING,
                                SimpleType.STRING,
                                SimpleType.INT)),
                CelFunctionDecl.newFunctionDeclaration(
                        "join",
                        CelOverloadDecl.newMemberOverload("remitto_join", SimpleType.STRING, TEXTS),
                        CelOverloadDecl.newMemberOverload(
                                "remitto_join_by", SimpleType.STRING, TEXTS, SimpleType.STRING)));
    }

    static List<CelFunctionBinding> bindings() {
        return List.of(
                CelFunctionBinding.from(
                        "remitto_replace",
                        List.of(String.class, String.class, String.class),
                        args -> replace((String) args[0], (String) args[1], (String) args[2], -1)),
                CelFunctionBinding.from(
                        "remitto_replace_some",
                        List.of(String.class, String.class, String.class, Long.class),
                        args -> replace((String) args[0], (String) args[1], (String) args[2], (Long) args[3])),
                CelFunctionBinding.from("remitto_join", List.class, texts -> join((List<?>) texts, "")),
                CelFunctionBinding.from(
                        "remitto_join_by",
                        List.of(List.class, String.class),
                        args -> join((List<?>) args[0], (String) args[1])));
    }

    /** @param most replacements; all where negative. An empty text stands before every character and at the end. */
    private static String replace(String text, String old, String fresh, long most) {
        StringBuilder out = new StringBuilder();
        int from = 0;
        for (long left = most < 0 ? Long.MAX_VALUE : most; left > 0; left--) {
            int at = text.indexOf(old, from);
            if (at < 0) {
                break;
            }
            out.append(text, from, at).append(fresh);
            from = at + old.length();
            if (old.isEmpty()) {
                if (at == text.length()) {
                    return checked(out).toString();
                }
                out.append(text.charAt(at));
                from = at + 1;
            }
            checked(out);
        }
        return checked(out.append(text, from, text.length())).toString();
    }

    private static String join(List<?> texts, String between) {
        StringBuilder out = new StringBuilder();
        for (int i = 0; i < texts.size(); i++) {
            out.append(i == 0 ? "" : between).append(texts.get(i));
            checked(out);
        }
        return out.toString();
    }

    private static StringBuilder checked(StringBuilder out) {
        if (out.length() > LONGEST) {
            throw new Functions.Unfit("the text is longer than " + LONGEST + " characters");
        }
        return out;
    }
}
