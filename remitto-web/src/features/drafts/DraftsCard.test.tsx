import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { AT, show } from '../../testing/page';
import { server } from '../../testing/server';
import type { DraftEntry } from '../../api/types';
import { DraftsCard, placeOf } from './DraftsCard';

const entry = (kind: DraftEntry['kind'], subject: string): DraftEntry => ({
  kind,
  subject,
  title: `${kind} ${subject}`,
  basedOn: 1,
  savedAt: AT,
});

describe('the list of drafts', () => {
  it('leads to where each was left, and discards it', async () => {
    let drafts = [entry('ROUTE', '4'), entry('DATASET', 'new.source.1')];
    server.by('GET', '/api/drafts', () => drafts);
    server.by('DELETE', '/api/drafts/{kind}/{subject}', () => {
      drafts = drafts.slice(1);
    });
    show(<DraftsCard />);
    expect(await screen.findByRole('link', { name: 'ROUTE 4' })).toHaveAttribute('href', '/routes/4');
    expect(screen.getByText(/DATASET new.source.1/)).toBeVisible();
    expect(screen.queryByRole('link', { name: /DATASET/ })).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Discard the draft of ROUTE 4' }));
    await waitFor(() => expect(screen.queryByText(/ROUTE 4/)).toBeNull());
    expect(server.askedOf('DELETE', '/api/drafts/{kind}/{subject}')[0]?.path).toBe('/api/drafts/ROUTE/4');
  });

  it('says that nothing is kept', async () => {
    server.on('GET', '/api/drafts', []);
    show(<DraftsCard />);
    expect(await screen.findByText(/None\. What you edit is kept here/)).toBeVisible();
  });

  it.each([
    ['DATASET', 'new', '/datasets/new'],
    ['AUDIENCE', 'new-company', '/audiences/new?entityType=COMPANY'],
    ['AUDIENCE', '5', '/audiences/5'],
    ['CROSSWALK', 'new', '/crosswalks/new'],
    ['PROFILE', 'purser', '/profiles/purser'],
    ['MATCH_RULES', 'PERSON', '/people/rules'],
    ['MATCH_RULES', 'COMPANY', '/companies/rules'],
    ['FILE_LAYOUT', '3.members', '/destinations/3'],
    ['MEASURE', '7', '/audiences/measures/7'],
  ] as const)('finds the page of %s %s', (kind, subject, place) => {
    expect(placeOf(entry(kind, subject))).toBe(place);
  });
});
