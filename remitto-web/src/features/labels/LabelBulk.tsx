import { useQuery } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Button, Failure, Input, Labelled, Select } from '../../components/ui';
import { type LabelKind, useChangeLabels } from './useLabels';

interface Props {
  kind: LabelKind;
  ids: number[];
  /** Tags that some of them have. */
  theirs: string[];
  /** Tags that are in use for this kind of things. */
  known: string[];
}

const NOTHING = { withoutOwner: false, add: [], remove: [] };

/** Owner and tags of what is chosen, changed at once. */
export function LabelBulk({ kind, ids, theirs, known }: Props) {
  const [tag, setTag] = useState('');
  const change = useChangeLabels(kind);
  const colleagues = useQuery({
    queryKey: ['colleagues'],
    queryFn: () => ok(api.GET('/api/labels/colleagues')),
    staleTime: 60_000,
  });
  const add = () => {
    if (tag.trim() !== '') change.mutate({ ...NOTHING, ids, add: [tag.trim()] });
    setTag('');
  };
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>Owner and tags</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Owner and tags"
          className="rounded-card border-hairline bg-card z-20 flex w-[300px] flex-col gap-3 border p-4 text-[0.8125rem] shadow-lg"
        >
          <Failure error={change.error ?? colleagues.error} />
          <Labelled label="Owner">
            <Select
              className="w-full"
              value=""
              disabled={change.isPending}
              onChange={(e) =>
                change.mutate(
                  e.target.value === 'none'
                    ? { ...NOTHING, ids, withoutOwner: true }
                    : { ...NOTHING, ids, ownerId: Number(e.target.value) },
                )
              }
            >
              <option value="" disabled>
                choose…
              </option>
              {(colleagues.data ?? []).map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
              <option value="none">nobody</option>
            </Select>
          </Labelled>
          <form
            className="flex items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              add();
            }}
          >
            <Labelled label="Add a tag">
              <Input list="known-tags" value={tag} onChange={(e) => setTag(e.target.value)} />
            </Labelled>
            <Button type="submit" disabled={change.isPending || tag.trim() === ''}>
              Add
            </Button>
            <datalist id="known-tags">
              {known.map((one) => (
                <option key={one} value={one} />
              ))}
            </datalist>
          </form>
          {theirs.length > 0 && (
            <div className="flex flex-wrap gap-1.5">
              {theirs.map((one) => (
                <Button
                  key={one}
                  kind="quiet"
                  aria-label={`Remove tag ${one}`}
                  disabled={change.isPending}
                  onClick={() => change.mutate({ ...NOTHING, ids, remove: [one] })}
                >
                  {one} ×
                </Button>
              ))}
            </div>
          )}
          {change.isSuccess && <span role="status">Saved.</span>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
