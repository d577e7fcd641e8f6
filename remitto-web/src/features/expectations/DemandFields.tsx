import { Input } from '../../components/ui';
import type { Demand } from './demands';

interface Props {
  demand: Demand;
  /** What the fields are about, for their labels. */
  of: string;
  onChange: (demand: Demand) => void;
}

/** An absent bound is an empty field. */
const bound = (text: string) => (text.trim() === '' ? undefined : text.trim());
const number = (text: string) => (text.trim() === '' ? undefined : Number(text));

/** What belongs to a demand: bounds, values, a pattern. */
export function DemandFields({ demand, of, onChange }: Props) {
  switch (demand.kind) {
    case 'one-of':
      return (
        <Input
          aria-label={`Values of ${of}, separated by commas`}
          className="w-72 font-mono"
          placeholder="gold, silver, blue"
          defaultValue={demand.values.join(', ')}
          onChange={(e) =>
            onChange({
              ...demand,
              values: e.target.value
                .split(',')
                .map((value) => value.trim())
                .filter((value) => value !== ''),
            })
          }
        />
      );
    case 'within':
      return (
        <>
          <Input
            aria-label={`Least value of ${of}`}
            className="w-32 font-mono"
            placeholder="no least value"
            value={demand.least ?? ''}
            onChange={(e) => onChange({ ...demand, least: bound(e.target.value) })}
          />
          to
          <Input
            aria-label={`Greatest value of ${of}`}
            className="w-32 font-mono"
            placeholder="no greatest value"
            value={demand.most ?? ''}
            onChange={(e) => onChange({ ...demand, most: bound(e.target.value) })}
          />
        </>
      );
    case 'matches':
      return (
        <Input
          aria-label={`Pattern for ${of}`}
          className="w-72 font-mono"
          placeholder="[0-9]{4}"
          value={demand.pattern}
          onChange={(e) => onChange({ ...demand, pattern: e.target.value })}
        />
      );
    case 'row-count':
      return (
        <>
          of at least
          <Input
            aria-label="Least rows"
            type="number"
            min={0}
            className="w-24"
            value={demand.least ?? ''}
            onChange={(e) => onChange({ ...demand, least: number(e.target.value) })}
          />
          at most
          <Input
            aria-label="Most rows"
            type="number"
            min={0}
            className="w-24"
            value={demand.most ?? ''}
            onChange={(e) => onChange({ ...demand, most: number(e.target.value) })}
          />
          within
          <Input
            aria-label="Change against the last reads, in percent"
            type="number"
            min={1}
            max={1000}
            className="w-20"
            value={demand.changePercent ?? ''}
            onChange={(e) => onChange({ ...demand, changePercent: number(e.target.value) })}
          />
          % of the last reads
        </>
      );
    case 'fresh':
      return (
        <>
          <Input
            aria-label="Hours since the newest row"
            type="number"
            min={1}
            className="w-20"
            value={demand.hours}
            onChange={(e) => onChange({ ...demand, hours: Number(e.target.value) })}
          />
          hours
        </>
      );
    default:
      return null;
  }
}
