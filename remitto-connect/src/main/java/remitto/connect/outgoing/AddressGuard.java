package remitto.connect.outgoing;

import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.util.List;

/** Refuses calls to link-local addresses, and to private or loopback ones that nobody listed. */
public final class AddressGuard {
    private final List<String> listed;

    /** @param listed host names or addresses that may be called although they are private */
    public AddressGuard(List<String> listed) {
        this.listed = List.copyOf(listed);
    }

    /** @throws IllegalArgumentException naming the address, if it may not be called */
    public void check(URI address) {
        String host = address.getHost();
        if (host == null || !List.of("http", "https").contains(address.getScheme())) {
            throw new IllegalArgumentException(address + " is not an address of the form https://host");
        }
        try {
            for (InetAddress one : InetAddress.getAllByName(host)) {
                boolean closed = one.isLinkLocalAddress() || one.isAnyLocalAddress() || one.isMulticastAddress();
                boolean inside = one.isLoopbackAddress() || one.isSiteLocalAddress();
                if (closed || inside && !listed.contains(host)) {
                    throw new IllegalArgumentException(
                            "Calls to " + host + " are not allowed; an administrator can list it.");
                }
            }
        } catch (UnknownHostException e) {
            throw new IllegalArgumentException("There is no host called " + host, e);
        }
    }
}
