package remitto.connect.outgoing;

import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** Refuses calls to addresses that are not global unicast, but for private and loopback ones that are listed by host, or host and port. */
public final class AddressGuard {
    private final List<String> listed;
    private final Optional<Set<String>> only;

    /** @param listed host names or addresses, alone or with a port, that may be called although they are private */
    public AddressGuard(List<String> listed) {
        this(listed, Optional.empty());
    }

    private AddressGuard(List<String> listed, Optional<Set<String>> only) {
        this.listed = List.copyOf(listed);
        this.only = only;
    }

    /** The same, for calls that carry secrets. @param origins that the secrets were given for, as {@link #origin} tells them */
    public AddressGuard only(Set<String> origins) {
        return new AddressGuard(listed, Optional.of(Set.copyOf(origins)));
    }

    /** Listed by host, or by host and port. */
    private boolean isListed(String host, int port) {
        String bare = host.replaceAll("^\\[|]$", "");
        return listed.contains(bare) || listed.contains(bare + ":" + port);
    }

    private static int portOf(URI address) {
        return Integer.parseInt(origin(address).replaceAll(".*:", ""));
    }

    /** Scheme, host and port of an address (RFC 6454), the port always said. */
    public static String origin(URI address) {
        int usual =
                switch (String.valueOf(address.getScheme())) {
                    case "http" -> 80;
                    case "postgresql" -> 5432;
                    case "sftp" -> 22;
                    default -> 443;
                };
        int port = address.getPort() >= 0 ? address.getPort() : usual;
        return (address.getScheme() + "://" + address.getHost() + ":" + port).toLowerCase(Locale.ROOT);
    }

    /** @throws IllegalArgumentException naming the address, if it may not be called */
    public void check(URI address) {
        String host = address.getHost();
        if (host == null || !List.of("http", "https", "postgresql", "sftp").contains(address.getScheme())) {
            throw new IllegalArgumentException(address + " is not an address of the form https://host");
        }
        if (only.isPresent() && !only.get().contains(origin(address))) {
            throw new IllegalArgumentException("Nothing is sent to " + origin(address)
                    + ": the secrets were given for " + String.join(" and ", only.get())
                    + ". Give them again on the destination's page to let them go there.");
        }
        try {
            for (InetAddress one : InetAddress.getAllByName(host)) {
                if (!Reach.isGlobal(one) && !(Reach.isListable(one) && isListed(host, portOf(address)))) {
                    throw new IllegalArgumentException(
                            "Calls to " + host + " are not allowed; an administrator can list it.");
                }
            }
        } catch (UnknownHostException e) {
            throw new IllegalArgumentException("There is no host called " + host, e);
        }
    }
}
