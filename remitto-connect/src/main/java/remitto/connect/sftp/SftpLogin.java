package remitto.connect.sftp;

/**
 * Whom a session is with, and as whom.
 *
 * @param hostKey fingerprint of the server's key, as ssh-keygen writes it
 * @param password of the login, or of the private key where it is locked
 * @param privateKey in OpenSSH's format or PEM; blank to sign in by password
 */
public record SftpLogin(String host, int port, String user, String hostKey, String password, String privateKey) {}
