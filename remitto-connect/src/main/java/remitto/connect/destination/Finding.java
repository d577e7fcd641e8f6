package remitto.connect.destination;

import java.util.List;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;

/** A destination in which single records can be looked up. */
public interface Finding {
    /** Records whose field has one of the values; {@code by} may be {@link Destination#ID}. */
    List<RemoteRecord> find(ObjectDescription object, String by, List<Value> values);
}
