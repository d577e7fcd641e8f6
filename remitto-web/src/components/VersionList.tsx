import { Ago } from './Moment';
import { Button, Pill } from './ui';
import { Act } from '../features/session/Editors';

export interface VersionNote {
  number: number;
  author: string;
  savedAt: string;
  note: string;
}

interface Props {
  versions: VersionNote[];
  latest: number;
  live?: number;
  compared: number;
  onCompare: (number: number) => void;
  /** Puts a version on the page as unsaved. */
  onTakeUp: (number: number) => void;
}

/** Saved versions, newest first. */
export function VersionList({ versions, latest, live, compared, onCompare, onTakeUp }: Props) {
  return (
    <ul className="m-0 list-none p-0">
      {versions.map((version) => (
        <li key={version.number} className="flex items-start justify-between gap-2 py-1">
          <span>
            <strong>{version.number}</strong> {version.author}, <Ago at={version.savedAt} />{' '}
            {version.number === live && <Pill tone="good">in service</Pill>}
            {version.note && <span className="text-soft block">{version.note}</span>}
          </span>
          <span className="whitespace-nowrap">
            {version.number !== latest && (
              <Button
                kind="quiet"
                aria-expanded={compared === version.number}
                onClick={() => onCompare(compared === version.number ? 0 : version.number)}
              >
                Compare
              </Button>
            )}
            <Act kind="quiet" onClick={() => onTakeUp(version.number)}>
              Restore
            </Act>
          </span>
        </li>
      ))}
    </ul>
  );
}
