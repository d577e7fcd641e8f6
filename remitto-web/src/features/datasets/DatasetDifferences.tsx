import type { Column, Differing } from '../../api/types';
import { TextDifferences } from '../../components/TextDifferences';

function words(column: Column | undefined): string {
  if (!column) return '';
  return `${column.type.toLowerCase()}, ${column.role.toLowerCase().replace('_', ' ')}`;
}

function differsElsewhere({ columns, dropped, expected }: Differing): boolean {
  return columns.length + dropped.length + expected.length > 0;
}

/** What two definitions of a dataset say differently. */
export function DatasetDifferences({ differences }: { differences: Differing }) {
  return (
    <>
      {differences.columns.map((column) => (
        <div key={column.name}>
          <strong className="font-mono">{column.name}</strong>{' '}
          {!column.before ? 'added, ' : !column.after ? 'removed, ' : ''}
          {column.before && <del className="text-removed">{words(column.before)}</del>}{' '}
          {column.after && <ins className="text-added no-underline">{words(column.after)}</ins>}
        </div>
      ))}
      {differences.dropped.map((one) => (
        <del key={one} className="text-removed">
          expects that {one}
        </del>
      ))}
      {differences.expected.map((one) => (
        <ins key={one} className="text-added no-underline">
          expects that {one}
        </ins>
      ))}
      {(differences.before !== differences.after || !differsElsewhere(differences)) && (
        <TextDifferences
          label="Differences of the query"
          before={differences.before}
          after={differences.after}
          height="220px"
        />
      )}
    </>
  );
}
