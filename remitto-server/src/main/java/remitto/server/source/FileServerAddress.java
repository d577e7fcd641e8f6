package remitto.server.source;

/**
 * A folder of another machine, by SFTP.
 *
 * @param folder blank for where the login begins
 * @param hostKey fingerprint of the server's key, as ssh-keygen writes it: {@code SHA256:} and 43 characters of base 64
 */
public record FileServerAddress(String host, int port, String folder, String user, String hostKey)
        implements FileAddress {
    @Override
    public String title() {
        return "SFTP";
    }

    @Override
    public String words() {
        return user + "@" + host + ":" + port + "/" + folder.replaceFirst("^/+", "") + ", server key "
                + (hostKey.isBlank() ? "not entered" : hostKey);
    }

    @Override
    public boolean isLocked() {
        return true;
    }
}
