import { Labelled } from '../../components/ui';

/** An audience written in SQL, for those who know the tables. */
export function SqlText({ sql, onChange }: { sql: string; onChange: (sql: string) => void }) {
  return (
    <div className="px-4 py-3">
      <Labelled
        label="A query that returns the members in a column person_id"
        note="It reads people.person, people.company, people.record, people.retired and people.audience_member."
      >
        <textarea
          className="rounded-button border-hairline bg-card w-full border p-2 font-mono"
          rows={8}
          spellCheck={false}
          value={sql}
          onChange={(event) => onChange(event.target.value)}
        />
      </Labelled>
    </div>
  );
}
