package remitto.server.source;

/** A place that files are read from; their rows are kept in our own database. */
public sealed interface FileAddress extends LandedAddress permits FolderAddress, FileServerAddress, UploadAddress {}
