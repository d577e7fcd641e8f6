import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { UsedBy } from '../../api/types';
import { counted } from '../../components/format';
import { Card, Failure, Skeleton } from '../../components/ui';

/** Values that the rows of one use hold and the table does not know. */
export function UnmappedWords({
  crosswalkId,
  version,
  use,
  known,
  onAdd,
}: {
  crosswalkId: number;
  version: number;
  use: UsedBy;
  known: string[];
  onAdd: (word: string) => void;
}) {
  const words = useQuery({
    queryKey: ['unmapped', crosswalkId, version, use.datasetId, use.column],
    queryFn: () =>
      ok(
        api.GET('/api/crosswalks/{id}/unmapped', {
          params: {
            path: { id: crosswalkId },
            query: { datasetId: use.datasetId, column: use.column },
          },
        }),
      ),
  });
  const left = (words.data ?? []).filter((word) => !known.includes(word.word.trim()));
  return (
    <Card title={`Unmapped values of ${use.column} of ${use.route}`}>
      <Failure error={words.error} />
      {!words.data && !words.error && <Skeleton rows={2} />}
      <ul className="m-0 max-h-[260px] list-none overflow-auto px-4 pb-3">
        {left.map((word) => (
          <li key={word.word} className="flex items-center justify-between gap-2 py-0.5">
            <button
              type="button"
              className="text-deep cursor-pointer truncate text-left font-mono hover:underline"
              title="Add to table"
              onClick={() => onAdd(word.word)}
            >
              + {word.word}
            </button>
            <span className="text-soft font-mono whitespace-nowrap">{counted(word.rows, 'row')}</span>
          </li>
        ))}
        {words.data && left.length === 0 && <li className="text-soft">Every value in the rows is mapped.</li>}
      </ul>
    </Card>
  );
}
