import type { FileFormat, FileSetDefinition, LandedFile, SeveralFiles } from '../../api/types';

export const SEVERAL: { kind: SeveralFiles['kind']; title: string; note: string }[] = [
  {
    kind: 'each-adds',
    title: 'Each file adds its rows',
    note: 'All rows of all files. A file that is replaced takes its former rows with it.',
  },
  {
    kind: 'newest-is-whole',
    title: 'The newest file is the whole',
    note: 'Only the rows of the newest file. Records that are missing in it leave the dataset.',
  },
  {
    kind: 'each-holds-changes',
    title: 'Each file holds changes',
    note: 'The newest row of every key, in the order of the files.',
  },
];

export const AFTER: { value: FileSetDefinition['afterReading']; title: string }[] = [
  { value: 'LEAVE', title: 'Leave the file where it is' },
  { value: 'ARCHIVE', title: 'Move it to the folder read beside it' },
  { value: 'DELETE', title: 'Delete it, unless rows are held' },
];

export function severalWords(several: SeveralFiles): string {
  return SEVERAL.find((one) => one.kind === several.kind)?.title ?? '';
}

export function formatWords(format: FileFormat): string {
  switch (format.kind) {
    case 'json-lines':
      return 'JSON Lines';
    case 'json-array':
      return 'JSON array';
    case 'xlsx':
      return `XLSX, ${format.sheet === '' ? 'first sheet' : `sheet ${format.sheet}`}${format.header ? '' : ', no header'}`;
    default:
      return `${format.delimiter === '\t' ? 'tab' : format.delimiter} between values, ${format.encoding}${format.header ? '' : ', no header'}`;
  }
}

export const STATES: Record<LandedFile['state'], { title: string; tone: 'good' | 'bad' | 'plain' | 'warn' }> =
  {
    READ: { title: 'read', tone: 'good' },
    FAILED: { title: 'failed', tone: 'bad' },
    SEEN: { title: 'waiting', tone: 'warn' },
    SUPERSEDED: { title: 'replaced by a newer file', tone: 'plain' },
  };
