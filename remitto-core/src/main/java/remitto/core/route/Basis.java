package remitto.core.route;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;

/** On what ground records of individuals may be sent. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Basis.NotStated.class, name = "none"),
    @JsonSubTypes.Type(value = Basis.Consent.class, name = "consent"),
    @JsonSubTypes.Type(value = Basis.Stated.class, name = "stated")
})
public sealed interface Basis {
    /** The legal basis was not stated yet, so the route cannot go into service. */
    record NotStated() implements Basis {}

    /**
     * Only who agreed: a row whose consent column is yes. Anything else is left out, saying whether the person
     * said no or was not asked.
     *
     * @param purpose what they agreed to, in words
     */
    record Consent(String purpose, String column) implements Basis {}

    /** Another ground, in words, such as a contract. */
    record Stated(String reason) implements Basis {}
}
