package remitto.server.access;

/** What a user may do: look; edit and send; also approve stopped manifests; also manage users. */
public enum Role {
    VIEWER,
    EDITOR,
    APPROVER,
    ADMIN
}
