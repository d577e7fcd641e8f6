package remitto.server.permission;

/** What a user may do: look; edit and send; also approve stopped manifests; also manage users. */
public enum Role {
    VIEWER,
    EDITOR,
    APPROVER,
    ADMIN
}
