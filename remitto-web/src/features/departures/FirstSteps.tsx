import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { Card } from '../../components/ui';
import { ActLink } from '../session/Editors';

interface Step {
  title: string;
  why: string;
  done: boolean;
  to: string;
  act: string;
}

/** What to do in an empty installation, in the order of the work; the first step that is open has its one action. */
export function FirstSteps({ sent }: { sent: boolean }) {
  const line = useQuery({ queryKey: ['line'], queryFn: () => ok(api.GET('/api/line')) });
  const sources = useQuery({ queryKey: ['sources'], queryFn: () => ok(api.GET('/api/sources')) });
  if (!line.data || !sources.data) return null;
  const steps: Step[] = [
    {
      title: 'Connect a source',
      why: 'The database that holds your customer data. Remitto reads it and never writes to it.',
      done: sources.data.some((one) => one.kind !== 'people'),
      to: '/sources/new',
      act: 'Connect a source',
    },
    {
      title: 'Define a dataset',
      why: 'A query or a table with a key and typed columns: the records to send.',
      done: line.data.datasets > 0,
      to: '/datasets/new',
      act: 'New dataset',
    },
    {
      title: 'Connect a destination',
      why: 'A tool that receives records: a webhook, a database table, a folder, an SFTP server, or any HTTP API by a profile.',
      done: line.data.destinations > 0,
      to: '/destinations/new',
      act: 'Connect a destination',
    },
    {
      title: 'Create a route',
      why: 'It says which field of the destination receives what, and when.',
      done: line.data.routes > 0,
      to: '/routes/new',
      act: 'New route',
    },
    {
      title: 'Send the first manifest',
      why: 'A manifest lists every change before anything is sent. Put the route in service, prepare the manifest, read it, send it.',
      done: sent,
      to: '/routes',
      act: 'Open routes',
    },
  ];
  const next = steps.findIndex((step) => !step.done);
  if (next < 0) return null;
  return (
    <Card title="First steps" className="mb-4 pb-2">
      <ol className="m-0 list-none p-0">
        {steps.map((step, at) => (
          <li
            key={step.title}
            aria-current={at === next ? 'step' : undefined}
            className={`flex flex-wrap items-center gap-3 px-4 py-2 ${at === next ? 'bg-sunk' : ''}`}
          >
            <span
              aria-hidden
              className={`flex h-6 w-6 items-center justify-center rounded-full border ${step.done ? 'bg-added-on text-added border-transparent' : 'border-hairline'}`}
            >
              {step.done ? '✓' : at + 1}
            </span>
            <span className="min-w-0 flex-1 basis-[240px]">
              <span className="font-semibold">{step.title}</span>
              {step.done && <span className="sr-only"> (done)</span>}
              <span className="text-soft block">{step.why}</span>
            </span>
            {at === next && (
              <ActLink to={step.to} kind="primary">
                {step.act}
              </ActLink>
            )}
          </li>
        ))}
      </ol>
    </Card>
  );
}
