import type { FileSetDefinition, FileSetSample } from '../../api/types';
import { count } from '../../components/format';
import { TD, TH } from '../../components/ui';

const TRUTHS: Record<string, string> = { t: 'true', f: 'false' };

/** The first rows of a file as they would be kept, and those that would be held where they stand. */
export function SampleRows({ sample, definition }: { sample: FileSetSample; definition: FileSetDefinition }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="First rows">
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={`${TH} text-right`}>Line</th>
            {definition.columns.map((column) => (
              <th key={column.name} className={`${TH} font-mono whitespace-nowrap`}>
                {column.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sample.rows.map((row) => (
            <tr key={row.line} className={row.problem ? 'bg-held-on' : ''}>
              <td className={`${TD} text-soft text-right font-mono`}>{count(row.line)}</td>
              {row.problem ? (
                <td className={TD} colSpan={Math.max(1, definition.columns.length)}>
                  <span className="text-held font-medium">‖ {row.problem}</span>
                  <div className="text-soft font-mono break-all">{row.content.slice(0, 300)}</div>
                </td>
              ) : (
                definition.columns.map((column, i) => {
                  const kept = row.cells[i];
                  const cell = column.type === 'BOOLEAN' && kept ? TRUTHS[kept] : kept;
                  return (
                    <td key={column.name} className={`${TD} max-w-80 truncate font-mono`}>
                      {cell ?? <span className="text-soft">empty</span>}
                    </td>
                  );
                })
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
