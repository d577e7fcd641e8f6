import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Draft, MatchRule, PeopleRulesView } from '../../api/types';
import { Loaded } from '../../components/Loaded';
import { PutInService } from '../../components/PutInService';
import { Card, Failure, Page } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { Drafted } from '../drafts/Drafted';
import { EditBar } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { type Kin, useKin } from './entityTypes';
import { freshRule } from './comparisons';
import { Effect } from './Effect';
import { Evidence } from './Evidence';
import { KeepTable } from './KeepTable';
import { RuleSentence } from './RuleSentence';
import { Thresholds } from './Thresholds';
import { WordLists } from './WordLists';
import { Act, Editable, Editors } from '../session/Editors';
import { useIsEditor } from '../session/useSession';

/** The rules that decide who is one person, with what they would do on the records as they are. */
export function RulesPage() {
  const whom = useKin();
  const rules = useQuery({
    queryKey: ['people-rules', whom.entityType],
    queryFn: () => ok(api.GET('/api/people/rules', { params: { query: { entityType: whom.entityType } } })),
  });
  return (
    <Loaded title="Rules" query={rules}>
      {(found) => (
        <Drafted
          key={whom.entityType}
          place={{ kind: 'MATCH_RULES', subject: whom.entityType }}
          title="Rules"
        >
          {(draft) => (
            <Rules key={`${whom.entityType}${found.number}`} view={found} whom={whom} draft={draft} />
          )}
        </Drafted>
      )}
    </Loaded>
  );
}

function Rules({ view, whom, draft }: { view: PeopleRulesView; whom: Kin; draft: Draft | undefined }) {
  const client = useQueryClient();
  const query = { entityType: whom.entityType };
  const edit = useDraft({
    place: { kind: 'MATCH_RULES', subject: whom.entityType, title: whom.title },
    saved: view.rules,
    version: view.number,
    draft,
  });
  const { value: rules, change: setRules, changed } = edit;
  const [compared, setCompared] = useState(0);
  const editor = useIsEditor();
  const done = (saved: PeopleRulesView) => client.setQueryData(['people-rules', whom.entityType], saved);
  const save = useMutation({
    mutationFn: (note: string) =>
      ok(
        api.POST('/api/people/rules/versions', {
          params: { query },
          body: { basedOn: edit.basedOn, note, rules },
        }),
      ),
    onSuccess: (saved) => {
      edit.saved();
      done(saved);
    },
  });
  const inService = useMutation({
    mutationFn: () =>
      ok(api.POST('/api/people/rules/in-service', { params: { query }, body: { version: view.number } })),
    onSuccess: done,
  });
  const takeUp = useMutation({
    mutationFn: (number: number) =>
      ok(api.GET('/api/people/rules/versions/{number}', { params: { path: { number }, query } })),
    onSuccess: setRules,
  });
  return (
    <Page
      title="Rules"
      of={`when records are the same ${whom.one}`}
      note={
        <>
          {view.liveNumber === 0 ? 'The built-in rules are live' : `Version ${view.liveNumber} is in service`}
          {view.number !== view.liveNumber && `; version ${view.number} is saved`}. The next matching run uses
          the live rules.{' '}
          <Link className="text-deep underline" to={whom.base}>
            {whom.title}
          </Link>
        </>
      }
      actions={
        !changed &&
        view.number !== view.liveNumber && (
          <PutInService version={view.number} live={view.liveNumber} act={inService}>
            <p className="m-0">
              The next matching run uses these rules. It shows what it would merge and separate before
              anything changes.
            </p>
          </PutInService>
        )
      }
    >
      <Failure error={save.error ?? takeUp.error} />
      <div
        className={`grid grid-cols-1 items-start gap-4 ${editor || view.versions.length > 0 ? 'lg:grid-cols-[minmax(0,7fr)_minmax(330px,5fr)]' : ''}`}
      >
        <Editable>
          <div className="flex min-w-0 flex-col gap-3">
            <RuleList
              title="Always matched"
              empty="No rules. Only evidence decides."
              word="match rule"
              rules={rules.join}
              view={view}
              onChange={(join) => setRules({ ...rules, join })}
            />
            <RuleList
              title="Never matched"
              empty="No rules. Only corrections keep records apart."
              word="separation rule"
              rules={rules.never}
              view={view}
              onChange={(never) => setRules({ ...rules, never })}
            />
            <Thresholds rules={rules} whom={whom} onChange={setRules} />
            <Evidence rules={rules} view={view} whom={whom} onChange={setRules} />
            <KeepTable rules={rules} view={view} whom={whom} onChange={setRules} />
            <WordLists rules={rules} view={view} whom={whom} onChange={setRules} />
          </div>
        </Editable>
        <div className="sticky top-[84px] flex max-h-[calc(100vh-96px)] min-w-0 flex-col gap-3 overflow-y-auto">
          <Editors>
            <Effect rules={rules} view={view} whom={whom} />
          </Editors>
          {view.versions.length > 0 && (
            <Card title="Versions">
              <div className="px-4 pb-3">
                <VersionList
                  versions={view.versions}
                  latest={view.number}
                  live={view.liveNumber}
                  compared={compared}
                  onCompare={setCompared}
                  onTakeUp={(number) => takeUp.mutate(number)}
                />
                {compared > 0 && (
                  <Editors>
                    <Effect rules={view.rules} view={view} whom={whom} against={compared} />
                  </Editors>
                )}
              </div>
            </Card>
          )}
        </div>
      </div>
      <EditBar
        edit={edit}
        version={view.number}
        isNew={false}
        author={view.versions.find((version) => version.number === view.number)?.author}
        pending={save.isPending}
        onSave={(note) => save.mutate(note)}
      />
    </Page>
  );
}

function RuleList({
  title,
  empty,
  word,
  rules,
  view,
  onChange,
}: {
  title: string;
  empty: string;
  word: string;
  rules: MatchRule[];
  view: PeopleRulesView;
  onChange: (rules: MatchRule[]) => void;
}) {
  const first = view.attributes[0];
  return (
    <Card title={title}>
      <div className="px-4 pb-3">
        {rules.length === 0 && <p className="text-soft m-0">{empty}</p>}
        <ul className="m-0 list-none p-0">
          {rules.map((rule, at) => (
            <li key={at} className={at > 0 ? 'border-hairline border-t' : ''}>
              <RuleSentence
                name={`${word} ${at + 1}`}
                rule={rule}
                attributes={view.attributes}
                onChange={(changed) => onChange(rules.map((one, i) => (i === at ? changed : one)))}
                onRemove={() => onChange(rules.filter((_, i) => i !== at))}
              />
            </li>
          ))}
        </ul>
        {first && (
          <Act kind="quiet" className="-ml-3" onClick={() => onChange([...rules, freshRule(first.name)])}>
            Add a {word}
          </Act>
        )}
      </div>
    </Card>
  );
}
