import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { FieldBook } from '../../api/types';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Input, Page, Pill } from '../../components/ui';
import { TakeStock } from '../stocktakes/TakeStock';
import { FieldPage } from './FieldPage';
import { Writers } from './Writers';

type BookField = FieldBook['fields'][number];
type Only = 'all' | 'conflict' | 'stale' | 'unruled';

const ONLY: [Only, string, (field: BookField) => boolean][] = [
  ['all', 'every field', () => true],
  ['conflict', 'in conflict', (field) => field.conflict !== undefined && !field.conflict.settled],
  ['stale', 'not written for 30 days', (field) => field.stale],
  [
    'unruled',
    'without a rule',
    (field) => field.rules.length === 0 && field.field.writable && !field.field.readOnly,
  ],
];

const ROW = 40;
const COLUMNS = 'grid-cols-[140px_112px_minmax(0,1fr)_80px_68px_78px_84px]';

export function FieldBookPage() {
  const { id = '0', object = '' } = useParams();
  const book = useQuery({
    queryKey: ['book', Number(id), object],
    queryFn: () =>
      ok(
        api.GET('/api/destinations/{id}/objects/{object}/book', {
          params: { path: { id: Number(id), object } },
        }),
      ),
  });
  return (
    <Loaded title="Field book" query={book}>
      {(found) => <Book book={found} />}
    </Loaded>
  );
}

function percent(share: number): string {
  return share === 0 ? '0%' : share < 0.001 ? '<0.1%' : `${(share * 100).toFixed(share < 0.1 ? 1 : 0)}%`;
}

function Book({ book }: { book: FieldBook }) {
  const [search] = useSearchParams();
  const [find, setFind] = useState(search.get('field') ?? '');
  const [only, setOnly] = useState<Only>('all');
  const [chosen, setChosen] = useState(search.get('field') ?? '');
  const scroller = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => {
    const keep = ONLY.find(([name]) => name === only)?.[2] ?? (() => true);
    const text = find.toLowerCase();
    return book.fields.filter(
      (one) =>
        keep(one) &&
        (text === '' ||
          `${one.field.name} ${one.field.title} ${one.rules.map((rule) => rule.route).join(' ')}`
            .toLowerCase()
            .includes(text)),
    );
  }, [book, find, only]);
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const open = book.fields.find((one) => one.field.name === chosen);
  return (
    <Page
      title="Field book"
      of={`${book.destination}, ${book.title}`}
      note={
        <>
          {counted(book.fields.length, 'field')}; values are known for {counted(book.known, 'record')}.{' '}
          {book.countedAt ? (
            <>
              {count(book.there)} existed at the last stocktake, <Ago at={book.countedAt} />.
            </>
          ) : (
            'No stocktake has been taken, so other writers are unknown.'
          )}
        </>
      }
      actions={<TakeStock destinationId={book.destinationId} object={book.object} />}
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_340px] items-start gap-4">
        <Card>
          <div className="border-hairline flex flex-wrap items-center gap-2 border-b px-3 py-2">
            {ONLY.map(([name, word, keep]) => (
              <Button
                key={name}
                aria-pressed={only === name}
                className={only === name ? 'border-soft bg-sunk' : ''}
                onClick={() => setOnly(name)}
              >
                {word} <span className="font-mono font-normal">{count(book.fields.filter(keep).length)}</span>
              </Button>
            ))}
            <Input
              aria-label="Find a field"
              placeholder="Find a field or route"
              className="ml-auto w-[180px]"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
          </div>
          <div
            className={`text-soft border-hairline grid gap-2 border-b px-3 py-1.5 font-medium ${COLUMNS}`}
            aria-hidden
          >
            <span>Field</span>
            <span>Type</span>
            <span>Written by</span>
            <span className="text-right">Filled</span>
            <span className="text-right">Distinct values</span>
            <span className="text-right">Written</span>
            <span className="text-right">Share per run</span>
          </div>
          <div
            ref={scroller}
            className="max-h-[calc(100vh-300px)] min-h-[240px] overflow-auto"
            tabIndex={0}
            role="region"
            aria-label="Fields"
          >
            <div
              role="table"
              aria-label="Fields"
              aria-rowcount={shown.length}
              style={{ height: rows.getTotalSize() }}
              className="relative"
            >
              {rows.getVirtualItems().map((item) => {
                const one = shown[item.index];
                return (
                  one && (
                    <Row
                      key={one.field.name}
                      one={one}
                      there={book.there}
                      at={item.index}
                      top={item.start}
                      active={one.field.name === chosen}
                      onOpen={() => setChosen(one.field.name === chosen ? '' : one.field.name)}
                    />
                  )
                );
              })}
            </div>
          </div>
          {shown.length === 0 && <p className="text-soft m-0 px-4 py-4">No field matches.</p>}
        </Card>
        <div className="flex flex-col gap-3">
          {open ? (
            <FieldPage key={open.field.name} book={book} one={open} />
          ) : (
            <Card className="px-4 py-3">
              <p className="text-soft m-0">
                Choose a field to see every rule that writes it and to set which route owns it.
              </p>
            </Card>
          )}
          <Writers book={book} />
        </div>
      </div>
    </Page>
  );
}

function Row({
  one,
  there,
  at,
  top,
  active,
  onOpen,
}: {
  one: BookField;
  there: number;
  at: number;
  top: number;
  active: boolean;
  onOpen: () => void;
}) {
  const { field } = one;
  return (
    <div
      role="row"
      aria-rowindex={at + 1}
      className={`border-hairline absolute inset-x-0 grid items-center gap-2 border-b px-3 ${COLUMNS} ${active ? 'bg-sunk' : ''}`}
      style={{ height: ROW, transform: `translateY(${top}px)` }}
    >
      <span role="cell" className="min-w-0">
        <button
          type="button"
          aria-expanded={active}
          className="w-full cursor-pointer truncate text-left font-mono font-semibold hover:underline"
          onClick={onOpen}
        >
          {field.name}
        </button>
      </span>
      <span role="cell" className="truncate" title={field.choices.join(', ')}>
        {field.kind.toLowerCase()}
        {field.maxLength !== undefined && <span className="text-soft"> {field.maxLength}</span>}
        {field.required && <span className="text-changed"> required</span>}
        {(field.readOnly || !field.writable) && <span className="text-held"> locked</span>}
      </span>
      <span role="cell" className="flex min-w-0 items-center gap-1.5 truncate">
        {one.conflict && (
          <Pill tone={one.conflict.settled ? 'plain' : 'bad'}>
            {one.conflict.settled ? 'settled' : 'conflict'}
          </Pill>
        )}
        {one.stale && <Pill tone="warn">stale</Pill>}
        <span className="truncate">
          {one.rules.map((rule, i) => (
            <span key={rule.routeId} title={rule.sentence}>
              {i > 0 && ', '}
              <span className={rule.setAside ? 'text-soft line-through' : ''}>{rule.route}</span>
            </span>
          ))}
          {one.others.length > 0 && (
            <span className="text-soft">
              {one.rules.length > 0 && ', '}
              {one.others.map((other) => other.client).join(', ')}
            </span>
          )}
          {one.rules.length === 0 && one.others.length === 0 && <span className="text-soft">no one</span>}
        </span>
      </span>
      <span role="cell" className="text-right font-mono">
        {one.filled === undefined ? '–' : there > 0 ? percent(one.filled / there) : '0%'}
      </span>
      <span role="cell" className="text-right font-mono">
        {one.knownFilled > 0 ? count(one.distinct) : '–'}
      </span>
      <span role="cell" className="truncate text-right">
        {one.lastWritten ? <Ago at={one.lastWritten} /> : '–'}
      </span>
      <span role="cell" className="text-right font-mono">
        {one.rules.length > 0 ? percent(one.shareChanged) : '–'}
      </span>
    </div>
  );
}
