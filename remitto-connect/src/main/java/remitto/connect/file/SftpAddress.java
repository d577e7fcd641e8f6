package remitto.connect.file;

import java.net.URI;
import java.net.URISyntaxException;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;

/**
 * A server and a folder there, such as {@code sftp://files.example:22/from-us}.
 *
 * @param folder blank for where a login begins
 */
record SftpAddress(String host, int port, String folder) {
    private static final int PORT = 22;

    /** @throws DestinationProblem if the text is no such address */
    static SftpAddress of(String text) {
        try {
            URI uri = new URI(text.strip());
            if (!"sftp".equals(uri.getScheme()) || uri.getHost() == null) {
                throw new DestinationProblem(Kind.REFUSED, "The address is like sftp://files.example:22/from-us.");
            }
            String path = uri.getPath() == null ? "" : uri.getPath();
            return new SftpAddress(uri.getHost(), uri.getPort() < 0 ? PORT : uri.getPort(), path.replaceAll("/+$", ""));
        } catch (URISyntaxException e) {
            throw new DestinationProblem(Kind.REFUSED, "The address is like sftp://files.example:22/from-us.");
        }
    }
}
