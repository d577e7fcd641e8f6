import type { Source } from '../../api/types';
import { count, counted } from '../../components/format';
import { Card, Pill, TD, TH } from '../../components/ui';
import { LoginRights } from './LoginRights';

type Report = NonNullable<Source['report']>;

/** What a login can read, and the least that it needs. */
export function Reach({ source, report }: { source: Source; report: Report }) {
  return (
    <>
      <Card
        title="What it can reach"
        aside={`${report.server}, as ${report.user}, ${report.encrypted ? 'encrypted' : 'not encrypted'}`}
      >
        <LoginRights source={source} beyond={report.warnings} />
        <Tables report={report} />
      </Card>
      <Grants title="Statements for a read-only login" report={report} />
    </>
  );
}

/** What gives a login exactly the rights that it needs. */
export function Grants({ title, report }: { title: string; report: Report }) {
  return (
    report.grants.length > 0 && (
      <Card title={title}>
        <pre
          tabIndex={0}
          aria-label="Grant statements"
          className="m-0 overflow-x-auto px-4 py-3 font-mono text-[0.75rem]"
        >
          {report.grants.join('\n')}
        </pre>
      </Card>
    )
  );
}

function Tables({ report }: { report: Report }) {
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr>
          <th className={TH}>Schema and table</th>
          <th className={`${TH} text-right`}>Rows (estimate)</th>
          <th className={TH}>Columns</th>
          <th className={TH}>Reading</th>
        </tr>
      </thead>
      <tbody>
        {report.schemas.flatMap((schema) =>
          schema.tables.length === 0
            ? [
                <tr key={schema.name}>
                  <td className={`${TD} font-mono`}>{schema.name}</td>
                  <td className={TD} />
                  <td className={`${TD} text-soft`}>no visible tables</td>
                  <td className={TD}>{!schema.usable && <Pill tone="warn">schema not usable</Pill>}</td>
                </tr>,
              ]
            : schema.tables.map((table) => (
                <tr key={`${schema.name}.${table.name}`}>
                  <td className={`${TD} font-mono`}>
                    <span className="text-soft">{schema.name}.</span>
                    {table.name}
                  </td>
                  <td className={`${TD} text-right font-mono`}>
                    {table.rowEstimate < 0 ? '–' : count(table.rowEstimate)}
                  </td>
                  <td className={TD} title={table.columns.map((column) => column.name).join(', ')}>
                    {counted(table.columns.length, 'column')}
                  </td>
                  <td className={TD}>
                    {table.readable ? (
                      <Pill tone="good">readable</Pill>
                    ) : (
                      <Pill tone="warn">not readable</Pill>
                    )}
                  </td>
                </tr>
              )),
        )}
      </tbody>
    </table>
  );
}
