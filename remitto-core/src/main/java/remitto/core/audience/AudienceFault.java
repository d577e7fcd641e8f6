package remitto.core.audience;

/** A condition that cannot be asked, such as one about an attribute that does not exist; told in words that help. */
public final class AudienceFault extends IllegalArgumentException {
    public AudienceFault(String message) {
        super(message);
    }
}
