package remitto.server.source;

/** Files that people upload in the browser, kept by Remitto itself. */
public record UploadAddress() implements FileAddress {
    @Override
    public String title() {
        return "Uploads";
    }

    @Override
    public String words() {
        return "files uploaded here";
    }

    @Override
    public boolean isLocked() {
        return false;
    }
}
