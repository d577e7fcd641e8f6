package remitto.connect.outgoing;

import java.net.Inet4Address;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;
import java.util.List;

/** How far an address reaches, by the special-purpose registries of IANA (RFC 6890 and its updates). */
final class Reach {
    /** Nobody can list these: they are this machine's or link's own, many receivers at once, or none. */
    private static final List<Range> NEVER = List.of(
            Range.of("0.0.0.0/8"),
            Range.of("169.254.0.0/16"),
            Range.of("224.0.0.0/4"),
            Range.of("240.0.0.0/4"),
            Range.of("::/128"),
            Range.of("fe80::/10"),
            Range.of("ff00::/8"));

    private static final List<Range> NOT_GLOBAL = List.of(
            Range.of("10.0.0.0/8"),
            Range.of("100.64.0.0/10"),
            Range.of("127.0.0.0/8"),
            Range.of("172.16.0.0/12"),
            Range.of("192.0.0.0/24"),
            Range.of("192.0.2.0/24"),
            Range.of("192.88.99.0/24"),
            Range.of("192.168.0.0/16"),
            Range.of("198.18.0.0/15"),
            Range.of("198.51.100.0/24"),
            Range.of("203.0.113.0/24"),
            Range.of("::1/128"),
            Range.of("64:ff9b::/96"),
            Range.of("64:ff9b:1::/48"),
            Range.of("100::/64"),
            Range.of("2001::/23"),
            Range.of("2001:db8::/32"),
            Range.of("2002::/16"),
            Range.of("fc00::/7"),
            Range.of("fec0::/10"));

    private Reach() {}

    /** A range of addresses, as in 10.0.0.0/8. */
    private record Range(byte[] from, int bits) {
        static Range of(String text) {
            String[] parts = text.split("/");
            try {
                return new Range(InetAddress.getByName(parts[0]).getAddress(), Integer.parseInt(parts[1]));
            } catch (UnknownHostException e) {
                throw new IllegalArgumentException(text, e);
            }
        }

        boolean holds(byte[] address) {
            if (address.length != from.length) {
                return false;
            }
            for (int bit = 0; bit < bits; bit++) {
                int mask = 0x80 >> (bit % 8);
                if ((address[bit / 8] & mask) != (from[bit / 8] & mask)) {
                    return false;
                }
            }
            return true;
        }
    }

    /** Whether anybody on the internet is meant by it. An IPv4 address within an IPv6 one counts as the IPv4 address. */
    static boolean isGlobal(InetAddress address) {
        byte[] bytes = plain(address);
        return NEVER.stream().noneMatch(range -> range.holds(bytes))
                && NOT_GLOBAL.stream().noneMatch(range -> range.holds(bytes));
    }

    /** Whether an administrator may list it. */
    static boolean isListable(InetAddress address) {
        byte[] bytes = plain(address);
        return NEVER.stream().noneMatch(range -> range.holds(bytes));
    }

    private static byte[] plain(InetAddress address) {
        byte[] bytes = address.getAddress();
        boolean mapped = !(address instanceof Inet4Address)
                && Arrays.equals(bytes, 0, 10, new byte[10], 0, 10)
                && bytes[10] == (byte) 0xff
                && bytes[11] == (byte) 0xff;
        return mapped ? Arrays.copyOfRange(bytes, 12, 16) : bytes;
    }
}
