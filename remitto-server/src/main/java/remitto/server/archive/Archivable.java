package remitto.server.archive;

import java.util.List;

/**
 * What can be archived, with the questions that find who uses it. Each question takes {@code :id} and gives names that follow "is used by".
 */
public enum Archivable {
    SOURCE("source", "id", List.of("""
            select 'dataset ' || name from dataset where source_id = :id::bigint and archived_at is null
            """, """
            select 'file set ' || name from file_set where source_id = :id::bigint and archived_at is null
            """, """
            select 'receiver ' || name from receiver where source_id = :id::bigint and archived_at is null
            """, """
            select 'Remitto itself' from source where id = :id::bigint and kind = 'people'
            """)),
    /** Queries name tables in texts, so that a name which stands in one counts as used. */
    FILE_SET("file_set", "id", List.of("""
            select distinct 'dataset ' || d.name from file_set f, dataset d
            join source s on s.id = d.source_id
            join dataset_version v on v.dataset_id = d.id and v.number in (d.latest_version, d.live_version)
            where f.id = :id::bigint and d.archived_at is null and s.kind <> 'warehouse'
              and (v.definition #>> '{query,table}' = f.table_name or strpos(v.definition #>> '{query,text}', f.table_name) > 0)
            """)),
    RECEIVER("receiver", "id", List.of("""
            select distinct 'dataset ' || d.name from receiver f, dataset d
            join source s on s.id = d.source_id
            join dataset_version v on v.dataset_id = d.id and v.number in (d.latest_version, d.live_version)
            where f.id = :id::bigint and d.archived_at is null and s.kind <> 'warehouse'
              and (v.definition #>> '{query,table}' = f.table_name or strpos(v.definition #>> '{query,text}', f.table_name) > 0)
            """)),
    DESTINATION("destination", "id", List.of("""
            select 'route ' || name from route where destination_id = :id::bigint and archived_at is null
            """, """
            select 'the consents that are read back from it' from consent_feed where destination_id = :id::bigint
            """, """
            select 'erasure ' || erasure_id from erasure_removal where destination_id = :id::bigint
              and state in ('PENDING', 'BY_HAND')
            """)),
    DATASET("dataset", "id", List.of("""
            select distinct 'route ' || r.name from route r
            join route_version v on v.route_id = r.id and v.number in (r.latest_version, r.live_version)
            where r.archived_at is null and (r.dataset_id = :id::bigint
              or jsonb_path_exists(v.definition, '$.rules.**.dataset ? (@ == $id)', jsonb_build_object('id', :id::bigint)))
            """, """
            select 'the matching of people and companies' from identity_source where dataset_id = :id::bigint
            """, """
            select 'events ' || name from event_set where :id::bigint in (dataset_id, person_dataset)
            """, """
            select 'the consents that are read from it' from consent_dataset where dataset_id = :id::bigint
            """, """
            select distinct 'audience ' || a.name from audience a
            join audience_version v on v.audience_id = a.id and v.number in (a.latest_version, a.live_version)
            where jsonb_path_exists(v.definition, '$.condition.** ? (@.kind == "dataset").dataset ? (@ == $id)',
              jsonb_build_object('id', :id::bigint))
            """)),
    ROUTE("route", "id", List.of("""
            select 'manifest ' || id || ', which is ' || lower(state) from run
            where route_id = :id::bigint and state in ('PREPARING', 'READY', 'AWAITING_APPROVAL', 'SENDING', 'SUSPENDED')
            """, """
            select distinct 'route ' || r.name || ', which waits for it' from route r
            join route_version v on v.route_id = r.id and v.number in (r.latest_version, r.live_version)
            where r.archived_at is null and r.id <> :id::bigint and v.definition -> 'after' @> to_jsonb(:id::bigint)
            """, """
            select distinct 'audience ' || a.name from audience a
            join audience_version v on v.audience_id = a.id and v.number in (a.latest_version, a.live_version)
            where jsonb_path_exists(v.definition, '$.condition.** ? (@.kind == "sent").route ? (@ == $id)',
              jsonb_build_object('id', :id::bigint))
            """)),
    CROSSWALK("crosswalk", "id", List.of("""
            select distinct 'route ' || r.name from route r
            join route_version v on v.route_id = r.id and v.number in (r.latest_version, r.live_version)
            where r.archived_at is null and jsonb_path_exists(v.definition, '$.rules.**.crosswalk ? (@ == $id)',
              jsonb_build_object('id', :id::bigint))
            """)),
    PROFILE("profile", "profile", List.of("""
            select 'destination ' || name from destination where profile = :id and archived_at is null
            """));

    private final String table;
    private final String key;
    private final List<String> uses;

    Archivable(String table, String key, List<String> uses) {
        this.table = table;
        this.key = key;
        this.uses = List.copyOf(uses);
    }

    String table() {
        return table;
    }

    String key() {
        return key;
    }

    List<String> uses() {
        return uses;
    }

    boolean hasName() {
        return this != PROFILE;
    }
}
