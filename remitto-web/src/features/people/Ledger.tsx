import type { PairEvidence } from '../../api/types';
import { bits } from './words';

/** Plus and minus, line by line, with the sum as it goes. */
export function Ledger({ evidence }: { evidence: PairEvidence }) {
  const widest = Math.max(1, ...evidence.ledger.map((entry) => Math.abs(entry.bits)));
  const counts = evidence.ledger.map((_, at) =>
    evidence.ledger.slice(0, at + 1).reduce((sum, entry) => sum + entry.bits, 0),
  );
  return (
    <table className="w-full border-collapse">
      <thead className="sr-only">
        <tr>
          <th>Evidence</th>
          <th>Strength</th>
          <th>Bits</th>
          <th>Sum</th>
        </tr>
      </thead>
      <tbody>
        {evidence.ledger.map((entry, at) => (
          <tr key={entry.words}>
            <td className="py-0.5 pr-2">{entry.words}</td>
            <td className="w-[110px] py-0.5" aria-hidden>
              <span
                className={`inline-block h-2.5 rounded-sm align-middle ${entry.bits < 0 ? 'bg-removed' : 'bg-deep'}`}
                style={{ width: `${Math.max(2, (100 * Math.abs(entry.bits)) / widest)}px` }}
              />
            </td>
            <td className="py-0.5 pl-2 text-right font-mono">{bits(entry.bits)}</td>
            <td className="text-soft py-0.5 pl-3 text-right font-mono">{bits(counts[at] ?? 0)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
