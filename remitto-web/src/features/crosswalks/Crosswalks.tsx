import { LabelledList } from '../labels/LabelledList';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Crosswalk } from '../../api/types';
import { count } from '../../components/format';
import { type ListColumn } from '../../components/ListTable';
import { Ago } from '../../components/Moment';
import { Card, Failure, Pill } from '../../components/ui';

const COLUMNS: ListColumn<Crosswalk>[] = [
  {
    id: 'name',
    title: 'Name',
    by: (one) => one.name,
    cell: (one) => (
      <>
        <Link to={`/crosswalks/${one.id}`} className="text-ink font-semibold">
          {one.name}
        </Link>
        <div className="text-soft">{one.description}</div>
      </>
    ),
  },
  {
    id: 'values',
    title: 'Values',
    right: true,
    by: (one) => one.entries.length,
    cell: (one) => count(one.entries.length),
  },
  {
    id: 'saved',
    title: 'Saved',
    by: (one) => one.savedAt,
    cell: (one) => (
      <>
        {one.author}, <Ago at={one.savedAt} />
      </>
    ),
  },
  {
    id: 'version',
    title: 'Version',
    by: (one) => one.liveVersion,
    cell: (one) =>
      one.liveVersion ? (
        <Pill tone="good">{`${one.liveVersion} in service`}</Pill>
      ) : (
        <Pill tone="warn">not in service</Pill>
      ),
  },
];

/** The crosswalk tables, below the datasets. */
export function Crosswalks() {
  const { data, error } = useQuery({
    queryKey: ['crosswalks'],
    queryFn: () => ok(api.GET('/api/crosswalks')),
  });
  const add = (
    <Link to="/crosswalks/new" className="text-deep underline">
      New crosswalk
    </Link>
  );
  if (!data || data.length === 0) {
    return (
      <Card className="mt-4" title="Crosswalks">
        <Failure error={error} />
        <p className="text-soft m-0 px-4 pb-3">Tables that map our values to a destination's. {add}</p>
      </Card>
    );
  }
  return (
    <LabelledList
      kind="CROSSWALK"
      of={['crosswalk', 'crosswalks']}
      title="Crosswalks"
      aside={<span className="text-soft">Tables that map our values to a destination's. {add}</span>}
      rows={data}
      id={(one) => one.id}
      name={(one) => one.name}
      words={(one) => `${one.name} ${one.description} ${one.author}`}
      columns={COLUMNS}
    />
  );
}
