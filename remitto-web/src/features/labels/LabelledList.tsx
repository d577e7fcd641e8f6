import type { RowData } from '@tanstack/react-table';
import type { ComponentProps } from 'react';
import { useListParams } from '../../components/listParams';
import { type ListColumn, ListTable } from '../../components/ListTable';
import { Failure, Pill, Select } from '../../components/ui';
import { useIsEditor } from '../session/useSession';
import { ArchiveBulk } from './ArchiveBulk';
import { LabelBulk } from './LabelBulk';
import { type LabelKind, useLabels } from './useLabels';

type Props<T extends RowData> = ComponentProps<typeof ListTable<T>> & {
  kind: LabelKind;
  id: (row: T) => number;
};

/** A list whose rows have owners and tags: shown beside the name, searched, filtered by, and changed for several at once. */
export function LabelledList<T extends RowData>({ kind, ...list }: Props<T>) {
  const editor = useIsEditor();
  const labels = useLabels(kind);
  const label = (row: T) => labels.of.get(String(list.id(row)));
  const params = useListParams(list.main ? '' : `${list.of[1]}-`);
  const tag = params.get('tag');
  const owner = params.get('owner');
  const owners = [...new Set([...labels.of.values()].flatMap((one) => one.owner ?? []))].sort((a, b) =>
    a.localeCompare(b),
  );
  const rows = list.rows.filter(
    (row) =>
      (tag === '' || label(row)?.tags.includes(tag)) &&
      (owner === '' || (owner === 'none' ? !label(row)?.owner : label(row)?.owner === owner)),
  );
  const [first, ...others] = list.columns;
  const named: ListColumn<T>[] = first
    ? [
        {
          ...first,
          cell: (row) => (
            <>
              {first.cell(row)}
              {(label(row)?.tags.length || label(row)?.owner) && (
                <div className="mt-0.5 flex flex-wrap items-center gap-1">
                  {label(row)?.tags.map((one) => (
                    <Pill key={one}>{one}</Pill>
                  ))}
                  {label(row)?.owner && <span className="text-soft">{label(row)?.owner}</span>}
                </div>
              )}
            </>
          ),
        },
        ...others,
      ]
    : [];
  const bulk = (chosen: T[]) => (
    <>
      {list.acts?.(chosen)}
      <LabelBulk
        kind={kind}
        ids={chosen.map(list.id)}
        theirs={[...new Set(chosen.flatMap((row) => label(row)?.tags ?? []))]}
        known={labels.tags}
      />
      <ArchiveBulk
        kind={kind}
        of={list.of}
        chosen={chosen.map((row) => ({ id: Number(list.id(row)), name: list.name(row) }))}
      />
    </>
  );
  return (
    <>
      <Failure error={labels.error} />
      <ListTable
        {...list}
        rows={rows}
        columns={named}
        words={(row) => `${list.words(row)} ${label(row)?.tags.join(' ') ?? ''} ${label(row)?.owner ?? ''}`}
        acts={editor ? bulk : undefined}
        aside={
          <span className="flex flex-wrap items-center gap-2">
            {labels.tags.length > 0 && (
              <Select
                aria-label={`Tag of ${list.of[1]}`}
                value={tag}
                onChange={(e) => params.set('tag', e.target.value)}
              >
                <option value="">every tag</option>
                {labels.tags.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </Select>
            )}
            {owners.length > 0 && (
              <Select
                aria-label={`Owner of ${list.of[1]}`}
                value={owner}
                onChange={(e) => params.set('owner', e.target.value)}
              >
                <option value="">every owner</option>
                {owners.map((one) => (
                  <option key={one}>{one}</option>
                ))}
                <option value="none">nobody</option>
              </Select>
            )}
            {list.aside}
          </span>
        }
      />
    </>
  );
}
