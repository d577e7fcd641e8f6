import type { Arrival } from '../../api/types';

export const KINDS: Record<Arrival['kind'], string> = { CALL: 'call', FILE: 'file', READ: 'read' };

type Tone = 'plain' | 'good' | 'warn' | 'bad' | 'held';

export const MARKS: Record<Arrival['mark'], { word: string; tone: Tone }> = {
  FITS: { word: 'fits', tone: 'good' },
  WAITING: { word: 'waiting', tone: 'plain' },
  DOUBLE: { word: 'duplicate event', tone: 'warn' },
  HELD: { word: 'held', tone: 'held' },
  REFUSED: { word: 'refused', tone: 'bad' },
  FAILED: { word: 'failed', tone: 'bad' },
  UNEXPECTED: { word: 'not as expected', tone: 'bad' },
};

/** The page of what an arrival belongs to. */
export function subjectPage(arrival: Pick<Arrival, 'kind' | 'subject'>): string {
  const { id, sourceId } = arrival.subject;
  switch (arrival.kind) {
    case 'CALL':
      return `/sources/${sourceId}/receivers/${id}`;
    case 'FILE':
      return `/sources/${sourceId}/file-sets/${id}`;
    case 'READ':
      return `/datasets/${id}`;
  }
}
