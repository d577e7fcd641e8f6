package remitto.server.source;

/** Calls that other tools make to receivers. */
public record CallAddress() implements LandedAddress {
    @Override
    public String title() {
        return "Receivers";
    }

    @Override
    public String words() {
        return "calls of other tools";
    }

    @Override
    public boolean isLocked() {
        return false;
    }
}
