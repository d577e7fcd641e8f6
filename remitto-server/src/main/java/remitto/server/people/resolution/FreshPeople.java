package remitto.server.people.resolution;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import remitto.core.identity.Resolution;
import remitto.core.identity.group.PersonIds;
import remitto.core.identity.record.RecordRef;
import remitto.core.identity.record.RecordTable;
import remitto.server.people.EntityType;
import remitto.server.people.source.PersonRecords;

/**
 * What a run found, beside what was known before.
 *
 * @param table the records with all their values, also the common ones
 * @param persons records by person, in order
 * @param judged records whose person was judged again
 * @param gone records that are no more
 */
record FreshPeople(
        EntityType entityType,
        PersonRecords.Read read,
        Map<RecordRef, PeopleStore.Stored> before,
        Resolution resolution,
        PersonIds.Assigned assigned,
        Map<Long, List<Integer>> persons,
        BitSet judged,
        Set<RecordRef> gone) {

    static FreshPeople of(
            EntityType entityType,
            PersonRecords.Read read,
            Map<RecordRef, PeopleStore.Stored> before,
            Resolution resolution,
            long nextPerson) {
        RecordTable table = resolution.table();
        long[] had = new long[table.size()];
        Set<RecordRef> gone = new HashSet<>(before.keySet());
        for (int record = 0; record < had.length; record++) {
            PeopleStore.Stored was = before.get(table.ref(record));
            had[record] = was == null ? 0 : was.person();
            gone.remove(table.ref(record));
        }
        PersonIds.Assigned assigned = PersonIds.assign(resolution.groups().group(), had, nextPerson);
        Map<Long, List<Integer>> persons = new TreeMap<>();
        for (int record = 0; record < had.length; record++) {
            persons.computeIfAbsent(assigned.ids()[record], id -> new ArrayList<>())
                    .add(record);
        }
        return new FreshPeople(entityType, read, before, resolution, assigned, persons, resolution.touched(), gone);
    }

    RecordTable table() {
        return resolution.table();
    }

    /** The person a record was; 0 when it was not there. */
    long had(int record) {
        PeopleStore.Stored was = before.get(table().ref(record));
        return was == null ? 0 : was.person();
    }

    long personsBefore() {
        Set<Long> ids = new HashSet<>();
        before.values().forEach(one -> ids.add(one.person()));
        return ids.size();
    }

    /** Records whose rows are to be written again. */
    BitSet rewritten() {
        BitSet rewritten = (BitSet) judged.clone();
        for (int record = 0; record < table().size(); record++) {
            if (read.changed().contains(table().ref(record))) {
                rewritten.set(record);
            }
        }
        return rewritten;
    }

    /** Persons, of now and of before, that a record of came, went, changed or was judged. */
    Set<Long> affected() {
        Set<Long> affected = new HashSet<>();
        rewritten().stream().forEach(record -> {
            affected.add(assigned.ids()[record]);
            affected.add(had(record));
        });
        gone.forEach(ref -> affected.add(before.get(ref).person()));
        affected.remove(0L);
        return affected;
    }

    /** Records by source that there were before. */
    Map<String, Integer> sourcesBefore() {
        Map<String, Integer> sources = new HashMap<>();
        before.keySet().forEach(ref -> sources.merge(ref.source(), 1, Integer::sum));
        return sources;
    }
}
