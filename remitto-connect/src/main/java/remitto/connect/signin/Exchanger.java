package remitto.connect.signin;

import java.net.http.HttpRequest;

/** Makes calls that sign in: paced as every other, to allowed addresses. */
public interface Exchanger {
    /** @param body the answer; not always JSON */
    record Answer(int status, String body) {
        @Override
        public String toString() {
            return "Answer[" + status + "]";
        }
    }

    /** The full address of a path of the tool, or of a full address as it stands. */
    java.net.URI address(String path);

    Answer exchange(HttpRequest.Builder request);
}
