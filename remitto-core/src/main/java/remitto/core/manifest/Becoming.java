package remitto.core.manifest;

import java.util.Optional;
import remitto.core.known.RecordState;

/**
 * What a judged record makes a run do.
 *
 * @param adopted it is found there for the first time, and counts as one of the route's from now on
 * @param bindsNow its binding is noted while the run is prepared, since nothing is going to be sent that would
 * @param line it stands in the manifest; otherwise it is counted among those of which nothing changed
 * @param remembered how it stands from now on, where that needs no answer of the destination
 * @param newEntry it is on a list under another entry than it should be: the old one goes and another comes
 */
public record Becoming(
        boolean adopted, boolean bindsNow, boolean line, Optional<RecordState> remembered, boolean newEntry) {}
