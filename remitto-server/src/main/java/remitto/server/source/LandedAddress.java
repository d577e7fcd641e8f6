package remitto.server.source;

/** Where rows come from that are kept in our own database before they are read. */
public sealed interface LandedAddress extends SourceAddress permits FileAddress, CallAddress {
    /** What such a place is called. */
    String title();
}
