package remitto.core.identity;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import remitto.core.identity.record.Links;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;

/**
 * What an earlier matching run by the same rules and weights came to, in the numbers that records have now.
 *
 * @param signatures by record, as they were found then; 0 for a record that was not there
 * @param links that were found between records that are there now
 * @param group by record, any number of messages that tells persons apart, as they were; 0 for a record that was not there
 * @param shaken records that were linked to one that is gone, or that somebody decided about
 */
public record Earlier(long[] signatures, Links links, long[] group, BitSet shaken) {
    /**
     * A record as it was.
     *
     * @param person any number of messages that tells persons apart, not 0
     */
    public record Then(long signature, long person) {}

    /**
     * A link as it was judged.
     *
     * @param rule number of the rule that joined the two; -1 for none
     */
    public record ThenLink(RecordRef one, RecordRef other, double weight, int rule) {}

    /**
     * @param table the records as they are now, in the numbers that {@link Resolution#table()} gives them
     * @param decided records that somebody decided about since
     */
    public static Earlier of(
            RecordTable table, Map<RecordRef, Then> then, Collection<ThenLink> thenLinks, Set<RecordRef> decided) {
        long[] signatures = new long[table.size()];
        long[] group = new long[table.size()];
        BitSet shaken = new BitSet(table.size());
        Map<RecordRef, Integer> numbers = new HashMap<>();
        for (int record = 0; record < group.length; record++) {
            RecordRef ref = table.ref(record);
            numbers.put(ref, record);
            Then was = then.get(ref);
            if (was != null) {
                signatures[record] = was.signature();
                group[record] = was.person();
            }
            if (decided.contains(ref)) {
                shaken.set(record);
            }
        }
        Links links = new Links();
        for (ThenLink link : thenLinks) {
            Integer one = numbers.get(link.one());
            Integer other = numbers.get(link.other());
            if (one != null && other != null) {
                links.add(one, other, link.weight(), link.rule());
            } else if (one != null) {
                shaken.set(one);
            } else if (other != null) {
                shaken.set(other);
            }
        }
        return new Earlier(signatures, links, group, shaken);
    }

    /** The same, of a matching run whose outcome is still at hand. */
    public static Earlier of(RecordTable table, Resolution before, Set<RecordRef> decided) {
        RecordTable old = before.table();
        Map<RecordRef, Then> then = new HashMap<>();
        for (int record = 0; record < old.size(); record++) {
            then.put(
                    old.ref(record),
                    new Then(
                            before.found().signatures()[record], before.groups().group()[record] + 1L));
        }
        Links links = before.found().links();
        List<ThenLink> kept = new ArrayList<>();
        for (int link = 0; link < links.size(); link++) {
            kept.add(new ThenLink(
                    old.ref(links.one(link)), old.ref(links.other(link)), links.weight(link), links.rule(link)));
        }
        return of(table, then, kept, decided);
    }

    /** Records that are not as they were, or are compared with others than they were. */
    BitSet fresh(long[] now) {
        BitSet fresh = new BitSet(now.length);
        for (int record = 0; record < now.length; record++) {
            if (signatures[record] == 0 || signatures[record] != now[record]) {
                fresh.set(record);
            }
        }
        return fresh;
    }

    /** Links that hold as they were judged. */
    Links between(BitSet fresh) {
        Links between = new Links();
        for (int link = 0; link < links.size(); link++) {
            if (!fresh.get(links.one(link)) && !fresh.get(links.other(link))) {
                between.add(links.one(link), links.other(link), links.weight(link), links.rule(link));
            }
        }
        return between;
    }

    /** Records whose person may have changed: fresh or shaken ones, and those that are or were linked to one. */
    BitSet touched(BitSet fresh) {
        BitSet touched = (BitSet) fresh.clone();
        touched.or(shaken);
        for (int link = 0; link < links.size(); link++) {
            if (fresh.get(links.one(link)) || fresh.get(links.other(link))) {
                touched.set(links.one(link));
                touched.set(links.other(link));
            }
        }
        return touched;
    }
}
