import { count, counted } from '../../components/format';
import { TD } from '../../components/ui';

/** How many of each. */
export function Counts({ counts, unit }: { counts: Record<string, number>; unit?: string }) {
  const entries = Object.entries(counts).sort(([one], [other]) => one.localeCompare(other));
  if (entries.length === 0) return <p className="text-soft m-0 px-4 pb-3">Nothing.</p>;
  return (
    <table className="w-full border-collapse">
      <tbody>
        {entries.map(([what, many]) => (
          <tr key={what}>
            <th scope="row" className={`${TD} text-left font-normal`}>
              {what}
            </th>
            <td className={`${TD} text-right font-mono whitespace-nowrap`}>
              {unit ? counted(many, unit) : count(many)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
