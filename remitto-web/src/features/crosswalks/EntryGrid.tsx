import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import type { Crosswalk } from '../../api/types';
import { counted } from '../../components/format';
import { Button, Card, Input } from '../../components/ui';

type Entry = Crosswalk['entries'][number];

const ROW = 38;
const CELL = 'bg-transparent w-full px-2 py-1 font-mono rounded hover:bg-sunk focus:bg-card';

/** The words with what each becomes, edited in place; Enter in the last row begins another. */
export function EntryGrid({
  entries,
  saved,
  onChange,
}: {
  entries: Entry[];
  saved: Entry[];
  onChange: (entries: Entry[]) => void;
}) {
  const [find, setFind] = useState('');
  const scroller = useRef<HTMLDivElement>(null);
  const shown = entries
    .map((entry, at) => ({ entry, at }))
    .filter(({ entry }) => !find || `${entry.from} ${entry.to}`.toLowerCase().includes(find.toLowerCase()));
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const before = new Map(saved.map((entry) => [entry.from, entry.to]));
  const seen = new Map<string, number>();
  entries.forEach((entry) => seen.set(entry.from.trim(), (seen.get(entry.from.trim()) ?? 0) + 1));
  const set = (at: number, changes: Partial<Entry>) =>
    onChange(entries.map((entry, i) => (i === at ? { ...entry, ...changes } : entry)));
  const add = () => {
    onChange([...entries, { from: '', to: '' }]);
    setFind('');
    requestAnimationFrame(() => rows.scrollToIndex(entries.length));
  };
  return (
    <Card>
      <div className="border-hairline flex items-center gap-3 border-b px-3 py-2">
        <Input
          aria-label="Find a value"
          placeholder="Find a value"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        <span className="text-soft">{counted(shown.length, 'word')}</span>
        <span className="ml-auto">
          <Button onClick={add}>Add value</Button>
        </span>
      </div>
      <div className="text-soft border-hairline grid grid-cols-[1fr_1fr_110px_40px] gap-2 border-b px-3 py-1.5 font-medium">
        <span>Our value</span>
        <span>Destination's value</span>
        <span />
        <span />
      </div>
      {entries.length === 0 && (
        <p className="text-soft m-0 px-4 py-5">
          No values yet. Add them one by one, import CSV, or add the values that rows hold and the table does
          not know.
        </p>
      )}
      <div
        ref={scroller}
        className="max-h-[calc(100vh-340px)] overflow-auto"
        role="region"
        aria-label="Values"
        tabIndex={0}
      >
        <div style={{ height: rows.getTotalSize() }} className="relative">
          {rows.getVirtualItems().map((item) => {
            const one = shown[item.index];
            if (!one) return null;
            const { entry, at } = one;
            const twice = (seen.get(entry.from.trim()) ?? 0) > 1;
            return (
              <div
                key={at}
                className="border-hairline absolute inset-x-0 grid grid-cols-[1fr_1fr_110px_40px] items-center gap-2 border-b px-3"
                style={{ height: ROW, transform: `translateY(${item.start}px)` }}
              >
                <input
                  aria-label={`Our value ${at + 1}`}
                  className={CELL}
                  value={entry.from}
                  onChange={(e) => set(at, { from: e.target.value })}
                />
                <input
                  aria-label={`Destination's value for ${entry.from || 'the new value'}`}
                  className={CELL}
                  placeholder="no value"
                  value={entry.to}
                  onChange={(e) => set(at, { to: e.target.value })}
                  onKeyDown={(e) => {
                    if (e.key === 'Enter' && at === entries.length - 1) add();
                  }}
                />
                <span className={twice ? 'text-removed' : 'text-changed'}>
                  {twice
                    ? 'duplicate'
                    : !before.has(entry.from)
                      ? 'new'
                      : before.get(entry.from) !== entry.to
                        ? `was ${before.get(entry.from) || 'no value'}`
                        : ''}
                </span>
                <button
                  type="button"
                  aria-label={`Remove ${entry.from || 'this value'}`}
                  className="text-soft hover:text-removed cursor-pointer"
                  onClick={() => onChange(entries.filter((_, i) => i !== at))}
                >
                  ×
                </button>
              </div>
            );
          })}
        </div>
      </div>
    </Card>
  );
}
