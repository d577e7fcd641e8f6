import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Column, EventSet, Field, RowsRequest } from '../../../api/types';
import { Button, Card, Failure, Select } from '../../../components/ui';
import { RowConditions, RowParts, RowPick } from '../../routes/rule/RowTokens';
import { freshRows } from './choice';
import { NameThere } from './TravelTable';

/** The columns that rows of events have, the time of each first. */
function columnsOf(set: EventSet): Column[] {
  return [
    { name: 'at', type: 'TIMESTAMP', role: 'EVENT_TIME' },
    ...set.columns.map((one): Column => ({ name: one.name, type: one.type, role: 'ATTRIBUTE' })),
  ];
}

/** Events of each person that are sent as well, such as the latest three bookings. */
export function RelatedRows({
  rows,
  fields,
  onChange,
}: {
  rows: RowsRequest[];
  fields?: Field[];
  onChange: (rows: RowsRequest[]) => void;
}) {
  const sets = useQuery({ queryKey: ['event-sets'], queryFn: () => ok(api.GET('/api/events')) });
  const known = sets.data ?? [];
  const first = known[0];
  const change = (at: number, changes: Partial<RowsRequest>) =>
    onChange(rows.map((one, i) => (i === at ? { ...one, ...changes } : one)));
  return (
    <Card title="Related rows" aside="They filter which rows are sent, never which people">
      <div className="flex flex-col gap-3 px-4 pb-4">
        <Failure error={sets.error} />
        {rows.map((one, i) => {
          const set = known.find((found) => found.id === one.events);
          const columns = set ? columnsOf(set) : [];
          return (
            <div key={i} className="border-hairline flex flex-wrap items-center gap-2 border-b pb-3">
              <span>For each person's</span>
              <Select
                aria-label="Events"
                value={one.events}
                onChange={(e) => change(i, { events: Number(e.target.value), parts: [], only: [] })}
              >
                {known.map((found) => (
                  <option key={found.id} value={found.id}>
                    {found.name}
                  </option>
                ))}
              </Select>
              <RowPick columns={columns} pick={one.pick} onChange={(pick) => change(i, { pick })} />
              <RowConditions columns={columns} only={one.only} onChange={(only) => change(i, { only })} />
              <span>their</span>
              <RowParts columns={columns} parts={one.parts} onChange={(parts) => change(i, { parts })} />
              <span>{fields ? 'become' : 'named'}</span>
              <NameThere
                column={set?.name ?? 'the rows'}
                name={one.field}
                fields={fields}
                onChange={(field) => change(i, { field })}
              />
              <Button kind="quiet" onClick={() => onChange(rows.filter((_, j) => j !== i))}>
                Remove these rows
              </Button>
            </div>
          );
        })}
        {first ? (
          <div>
            <Button
              onClick={() =>
                onChange([
                  ...rows,
                  freshRows(
                    first.id,
                    fields ? '' : `latest_${first.name.toLowerCase().replaceAll(' ', '_')}`,
                  ),
                ])
              }
            >
              Add event rows
            </Button>
          </div>
        ) : (
          <p className="text-soft m-0">
            No events are kept yet. Add them on the Events page under Audiences.
          </p>
        )}
      </div>
    </Card>
  );
}
