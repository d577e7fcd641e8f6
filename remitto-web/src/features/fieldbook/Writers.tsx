import type { FieldBook } from '../../api/types';
import { count, counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Pill } from '../../components/ui';

/** Everything known to write to the object, by the names the destination gives its clients. */
export function Writers({ book }: { book: FieldBook }) {
  return (
    <Card title="Clients writing to this object">
      <div className="px-4 pb-3">
        {book.clients.length === 0 && (
          <p className="text-soft m-0">
            {book.countedAt
              ? 'The destination does not report who writes.'
              : 'Run a stocktake to see every client that wrote values.'}
          </p>
        )}
        <ul className="m-0 list-none p-0">
          {book.clients.map((client) => (
            <li key={client.client} className="border-hairline border-t py-1.5 first:border-0">
              <div className="flex justify-between gap-2">
                <span className="font-mono font-semibold">
                  {client.client} {client.us && <Pill tone="good">Remitto</Pill>}
                </span>
                <span className="font-mono">{count(client.values)}</span>
              </div>
              <details className="text-soft">
                <summary className="cursor-pointer">
                  values in {counted(client.fields.length, 'field')}, newest <Ago at={client.newest} />
                </summary>
                {client.fields.join(', ')}
              </details>
            </li>
          ))}
        </ul>
      </div>
    </Card>
  );
}
