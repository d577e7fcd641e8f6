package remitto.server.source;

import java.util.List;

/** Commands that give a login of an OpenSSH server exactly the folder it reads (sshd_config(5): Match, ChrootDirectory, ForceCommand). */
final class SftpGrants {
    private SftpGrants() {}

    static List<String> of(FileServerAddress server) {
        String user = server.user().replaceAll("[^A-Za-z0-9._-]", "_");
        String folder =
                server.folder().isBlank() ? "/drop" : "/" + server.folder().replaceAll("^/+|/+$|[^A-Za-z0-9._/-]", "");
        return List.of(
                "useradd --create-home --shell /usr/sbin/nologin " + user,
                "mkdir -p /srv/" + user + folder + " && chown root:root /srv/" + user,
                "setfacl -m u:" + user + ":rx /srv/" + user + folder,
                "printf 'Match User " + user + "\\n  ChrootDirectory /srv/" + user
                        + "\\n  ForceCommand internal-sftp -R\\n  AllowTcpForwarding no\\n  X11Forwarding no\\n'"
                        + " > /etc/ssh/sshd_config.d/" + user + ".conf",
                "systemctl reload ssh");
    }
}
