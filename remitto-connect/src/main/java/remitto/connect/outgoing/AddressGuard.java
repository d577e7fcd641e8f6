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
    private final Names names;

    /** What a host's name stands for at the moment. */
    @FunctionalInterface
    public interface Names {
        InetAddress[] addresses(String host) throws UnknownHostException;
    }

    /** @param listed host names or addresses, alone or with a port, that may be called although they are private */
    public AddressGuard(List<String> listed) {
        this(listed, InetAddress::getAllByName);
    }

    public AddressGuard(List<String> listed, Names names) {
        this(listed, Optional.empty(), names);
    }

    private AddressGuard(List<String> listed, Optional<Set<String>> only, Names names) {
        this.listed = List.copyOf(listed);
        this.only = only;
        this.names = names;
    }

    /** The list as one text, for what is made from settings; {@link #of} reads it. */
    public String spelled() {
        return String.join(",", listed);
    }

    public static AddressGuard of(String spelled) {
        return new AddressGuard(spelled.isEmpty() ? List.of() : List.of(spelled.split(",")));
    }

    /**
     * The same, for calls that carry secrets.
     *
     * @param origins that the secrets were given for, as {@link #origin} tells them
     */
    public AddressGuard only(Set<String> origins) {
        return new AddressGuard(listed, Optional.of(Set.copyOf(origins)), names);
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
            resolve(host, portOf(address));
        } catch (UnknownHostException e) {
            throw new IllegalArgumentException(String.valueOf(e.getMessage()), e);
        }
    }

    /**
     * The addresses of a host, to connect to. Whoever connects takes these and asks for none again: a name can mean something else a
     * moment later.
     *
     * @throws RefusedAddress if one of them may not be called
     * @throws UnknownHostException if there is no such host
     */
    public InetAddress[] resolve(String host, int port) throws UnknownHostException {
        InetAddress[] found;
        try {
            found = names.addresses(host);
        } catch (UnknownHostException e) {
            UnknownHostException told = new UnknownHostException("There is no host called " + host);
            told.initCause(e);
            throw told;
        }
        for (InetAddress one : found) {
            check(host, port, one);
        }
        return found;
    }

    /** @throws RefusedAddress if this address, which the host's name stands for, may not be called */
    void check(String host, int port, InetAddress address) throws RefusedAddress {
        if (!Reach.isGlobal(address) && !(Reach.isListable(address) && isListed(host, port))) {
            throw new RefusedAddress("Calls to " + host + " are not allowed; an administrator can list it.");
        }
    }
}
