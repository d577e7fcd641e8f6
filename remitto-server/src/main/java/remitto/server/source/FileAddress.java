package remitto.server.source;

/** A place that files are read from; their rows are kept in our own database. */
public sealed interface FileAddress extends SourceAddress permits FolderAddress, FileServerAddress, UploadAddress {
    /** What such a place is called. */
    String title();
}
