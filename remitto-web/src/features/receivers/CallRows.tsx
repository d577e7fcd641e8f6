import type { CallSample, ReceiverDefinition } from '../../api/types';
import { TD, TH } from '../../components/ui';

const TRUTHS: Record<string, string> = { t: 'true', f: 'false' };

/** Records of the latest calls as they would be kept, and calls that would be held where they stand. */
export function CallRows({ sample, definition }: { sample: CallSample; definition: ReceiverDefinition }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Latest calls as rows">
      <table className="w-full border-collapse">
        <thead>
          <tr>
            {definition.columns.map((column) => (
              <th key={column.name} className={`${TH} font-mono whitespace-nowrap`}>
                {column.name}
              </th>
            ))}
            <th className={TH}>Event</th>
          </tr>
        </thead>
        <tbody>
          {sample.rows.map((row, at) => (
            <tr key={at} className={row.problem ? 'bg-held-on' : ''}>
              {row.problem ? (
                <td className={TD} colSpan={definition.columns.length + 1}>
                  <span className="text-held font-medium">‖ {row.problem}</span>
                </td>
              ) : (
                <>
                  {definition.columns.map((column, i) => {
                    const kept = row.cells[i];
                    const cell = column.type === 'BOOLEAN' && kept ? TRUTHS[kept] : kept;
                    return (
                      <td key={column.name} className={`${TD} max-w-80 truncate font-mono`}>
                        {cell ?? <span className="text-soft">empty</span>}
                      </td>
                    );
                  })}
                  <td className={`${TD} text-soft max-w-60 truncate font-mono`}>{row.event || '–'}</td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
