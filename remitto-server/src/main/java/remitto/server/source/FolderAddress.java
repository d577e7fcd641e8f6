package remitto.server.source;

/**
 * A folder of the machine that Remitto runs on.
 *
 * @param folder below the one that the installation reads files from; blank for that one
 */
public record FolderAddress(String folder) implements FileAddress {
    @Override
    public String title() {
        return "Folder";
    }

    @Override
    public String words() {
        return "folder " + (folder.isBlank() ? "of the inbox" : folder);
    }

    @Override
    public boolean isLocked() {
        return false;
    }
}
