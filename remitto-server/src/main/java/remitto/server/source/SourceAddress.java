package remitto.server.source;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;

/** Where a source is read, without its password. One that does not say its kind is a database. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind", defaultImpl = DatabaseAddress.class)
@JsonSubTypes({
    @JsonSubTypes.Type(value = DatabaseAddress.class, name = "database"),
    @JsonSubTypes.Type(value = FolderAddress.class, name = "folder"),
    @JsonSubTypes.Type(value = FileServerAddress.class, name = "file-server"),
    @JsonSubTypes.Type(value = UploadAddress.class, name = "upload"),
    @JsonSubTypes.Type(value = CallAddress.class, name = "calls")
})
public sealed interface SourceAddress permits DatabaseAddress, LandedAddress {
    /** Where a password goes to, and as whom. */
    String words();

    /** Whether a password or a key is needed to read there. */
    @JsonIgnore
    boolean isLocked();
}
