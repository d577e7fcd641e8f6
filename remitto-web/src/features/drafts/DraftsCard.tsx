import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { DraftEntry } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Card, Failure } from '../../components/ui';
import { Act } from '../session/Editors';
import { discardDraft } from './draftCalls';

const KINDS: Record<DraftEntry['kind'], string> = {
  ROUTE: 'Route',
  DATASET: 'Dataset',
  AUDIENCE: 'Audience',
  CROSSWALK: 'Crosswalk',
  PROFILE: 'Profile',
  MATCH_RULES: 'Rules',
  FILE_LAYOUT: 'File',
  MEASURE: 'Measure',
};

/** The page that a draft is edited on; absent where only the link that began it leads there. */
export function placeOf({ kind, subject }: DraftEntry): string | undefined {
  switch (kind) {
    case 'ROUTE':
      return `/routes/${subject}`;
    case 'DATASET':
      return subject.startsWith('new.') ? undefined : `/datasets/${subject}`;
    case 'AUDIENCE':
      return subject === 'new-company' ? '/audiences/new?entityType=COMPANY' : `/audiences/${subject}`;
    case 'CROSSWALK':
      return `/crosswalks/${subject}`;
    case 'PROFILE':
      return `/profiles/${subject}`;
    case 'MATCH_RULES':
      return subject === 'COMPANY' ? '/companies/rules' : '/people/rules';
    case 'FILE_LAYOUT':
      return `/destinations/${subject.split('.')[0]}`;
    case 'MEASURE':
      return subject === 'new-company' ? '/audiences/measures/new' : `/audiences/measures/${subject}`;
  }
}

/** One's own edits that were not saved, wherever they were left. */
export function DraftsCard() {
  const client = useQueryClient();
  const drafts = useQuery({ queryKey: ['drafts'], queryFn: () => ok(api.GET('/api/drafts')), gcTime: 0 });
  const discard = useMutation({
    mutationFn: (draft: DraftEntry) => discardDraft(client, draft),
    onSuccess: () => client.invalidateQueries({ queryKey: ['drafts'] }),
  });
  return (
    <Card title="Unsaved drafts">
      <div className="px-4 pb-3">
        <Failure error={drafts.error ?? discard.error} />
        {drafts.data?.length === 0 && (
          <p className="text-soft m-0">None. What you edit is kept here until you save or discard it.</p>
        )}
        <ul className="m-0 list-none p-0">
          {(drafts.data ?? []).map((draft) => {
            const place = placeOf(draft);
            return (
              <li
                key={`${draft.kind} ${draft.subject}`}
                className="flex items-center justify-between gap-3 py-1"
              >
                <span>
                  <span className="text-soft">{KINDS[draft.kind]}</span>{' '}
                  {place ? (
                    <Link className="text-deep underline" to={place}>
                      {draft.title}
                    </Link>
                  ) : (
                    draft.title
                  )}
                  , <Ago at={draft.savedAt} />
                </span>
                <Act
                  kind="quiet"
                  aria-label={`Discard the draft of ${draft.title}`}
                  disabled={discard.isPending}
                  onClick={() => discard.mutate(draft)}
                >
                  Discard
                </Act>
              </li>
            );
          })}
        </ul>
      </div>
    </Card>
  );
}
