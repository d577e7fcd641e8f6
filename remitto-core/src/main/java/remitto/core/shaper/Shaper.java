package remitto.core.shaper;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Set;

/** One step that changes the form of a value. Empty values pass untouched. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Trim.class, name = "trim"),
    @JsonSubTypes.Type(value = Spaces.class, name = "spaces"),
    @JsonSubTypes.Type(value = LowerCase.class, name = "lower"),
    @JsonSubTypes.Type(value = UpperCase.class, name = "upper"),
    @JsonSubTypes.Type(value = TitleCase.class, name = "title"),
    @JsonSubTypes.Type(value = UnicodeForm.class, name = "unicode"),
    @JsonSubTypes.Type(value = Transliterate.class, name = "latin"),
    @JsonSubTypes.Type(value = E164.class, name = "e164"),
    @JsonSubTypes.Type(value = NormaliseEmail.class, name = "email"),
    @JsonSubTypes.Type(value = IsoCountry.class, name = "country"),
    @JsonSubTypes.Type(value = IsoCurrency.class, name = "currency"),
    @JsonSubTypes.Type(value = IsoLanguage.class, name = "language"),
    @JsonSubTypes.Type(value = ReadNumber.class, name = "number"),
    @JsonSubTypes.Type(value = Rounded.class, name = "round"),
    @JsonSubTypes.Type(value = ToDate.class, name = "date"),
    @JsonSubTypes.Type(value = ToMoment.class, name = "moment"),
    @JsonSubTypes.Type(value = SpellTime.class, name = "spell"),
    @JsonSubTypes.Type(value = YesNo.class, name = "yesno"),
    @JsonSubTypes.Type(value = Truncate.class, name = "truncate"),
    @JsonSubTypes.Type(value = SplitList.class, name = "split"),
    @JsonSubTypes.Type(value = JoinList.class, name = "join"),
    @JsonSubTypes.Type(value = AsJson.class, name = "json"),
    @JsonSubTypes.Type(value = SpellRows.class, name = "rows"),
    @JsonSubTypes.Type(value = Mask.class, name = "mask"),
    @JsonSubTypes.Type(value = Sha256.class, name = "sha256"),
    @JsonSubTypes.Type(value = Crosswalked.class, name = "crosswalk"),
    @JsonSubTypes.Type(value = KeyedHash.class, name = "keyedhash")
})
public sealed interface Shaper permits PureShaper, Crosswalked, KeyedHash {

    /** A short name for the step, as the followed record and the rule's sentence show it. */
    String title();

    /** Other columns the outcome depends on. */
    default Set<String> columns() {
        return Set.of();
    }

    /**
     * Ready to run.
     *
     * @throws IllegalArgumentException if it cannot be, saying why
     */
    Step ready(Stores stores);

    /** True when the value cannot be told from what comes out, as with a hash. */
    default boolean hides() {
        return false;
    }
}
