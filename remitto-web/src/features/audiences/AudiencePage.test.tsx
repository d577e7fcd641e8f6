import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { AudiencePage } from './AudiencePage';

const WORDS = {
  attributes: [{ name: 'home_port', type: 'TEXT', measure: false }],
  events: [],
  audiences: [],
  datasets: [],
  routes: [],
  purposes: [],
};

const SPEC = {
  condition: { kind: 'all', conditions: [{ kind: 'everyone' }] },
  sql: '',
  zone: 'Europe/Oslo',
  controlGroup: { percent: 0, seed: '' },
};

const COUNT = {
  people: 900,
  lines: [{ alone: 900, left: 900, parts: [] }],
  members: 900,
  inControlGroup: 0,
  millis: 2,
  sql: '',
};

function view(changes: Record<string, unknown> = {}) {
  return {
    audience: {
      id: 5,
      name: 'Everyone',
      description: 'all of them',
      entityType: 'PERSON',
      latestVersion: 2,
      liveVersion: 1,
      author: 'Edda Tester',
      savedAt: AT,
      routes: 0,
      countFirst: false,
      spec: SPEC,
      liveSpec: SPEC,
      ...changes,
    },
    versions: [
      { number: 2, author: 'Edda Tester', savedAt: AT, note: 'wider' },
      { number: 1, author: 'Edda Tester', savedAt: AT, note: '' },
    ],
    counts: [
      {
        id: 1,
        version: 1,
        countedAt: AT,
        startedBy: 'timetable',
        members: 812,
        inControlGroup: 0,
        joined: 0,
        gone: 0,
        millis: 40,
        problem: '',
      },
    ],
    routes: [],
  };
}

beforeEach(() => {
  signIn('EDITOR', ['SEE_PERSONAL_VALUES']);
  server.on('GET', '/api/conditions/words', WORDS);
  server.on('POST', '/api/conditions/count', COUNT);
  server.on('POST', '/api/conditions/examples', []);
  server.on('GET', '/api/audiences/overlap', { audiences: [], overlaps: [] });
  server.on('POST', '/api/audiences/{id}/effect', { now: 812, then: 1, joins: 0, goes: 811, examples: [] });
});

const saved = () => server.askedOf('POST', '/api/audiences/{id}/versions');

describe('an audience', () => {
  it('is made with a name and a condition, and opened once it is', async () => {
    server.on('POST', '/api/audiences', view({ latestVersion: 1, liveVersion: undefined }));
    server.on('GET', '/api/audiences/{id}', view({ latestVersion: 1, liveVersion: undefined }));
    show(<AudiencePage />, '/audiences/new', '/audiences/:id');
    const save = await screen.findByRole('button', { name: 'Save version 1' });
    expect(save).toBeDisabled();
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Everyone' } });
    expect(save).toBeDisabled();
    fireEvent.change(screen.getByLabelText('Add a line'), { target: { value: 'everyone' } });
    expect(save).toBeEnabled();
    fireEvent.click(save);
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/audiences/5'));
    expect(server.askedOf('POST', '/api/audiences')).toHaveLength(1);
    expect(server.askedOf('POST', '/api/audiences')[0]?.body).toMatchObject({
      name: 'Everyone',
      entityType: 'PERSON',
      basedOn: 0,
      spec: { condition: { kind: 'all', conditions: [{ kind: 'everyone' }] }, sql: '' },
    });
  });

  it('says which version is in service and how many it had', async () => {
    server.on('GET', '/api/audiences/{id}', view());
    show(<AudiencePage />, '/audiences/5', '/audiences/:id');
    expect(await screen.findByText(/812 members/)).toBeVisible();
    expect(screen.getByText(/version 1 is in service, version 2 is saved/)).toBeVisible();
    expect(screen.getByText(/No route sends it/)).toBeVisible();
  });

  it('counts as it is edited, the condition that stands there', async () => {
    server.on('GET', '/api/audiences/{id}', view());
    show(<AudiencePage />, '/audiences/5', '/audiences/:id');
    await screen.findByLabelText('line 1');
    fireEvent.click(screen.getByLabelText(/: not, line 1$/));
    const negated = { kind: 'all', conditions: [{ kind: 'not', condition: { kind: 'everyone' } }] };
    await waitFor(() =>
      expect(
        server
          .askedOf('POST', '/api/conditions/count')
          .map((one) => (one.body as { spec: { condition: unknown } }).spec.condition),
      ).toContainEqual(negated),
    );
  });

  it('keeps what was edited when saving is refused, and says why', async () => {
    server.on('GET', '/api/audiences/{id}', view());
    server.refuse(
      'POST',
      '/api/audiences/{id}/versions',
      409,
      'Somebody saved another version since you began; take it up and save again.',
    );
    show(<AudiencePage />, '/audiences/5', '/audiences/:id');
    fireEvent.click(await screen.findByLabelText(/: not, line 1$/));
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'All of them' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save version 3' }));
    expect(await screen.findByText(/Somebody saved another version/)).toBeVisible();
    expect(screen.getByLabelText('Name')).toHaveValue('All of them');
    expect(saved()[0]?.body).toMatchObject({ name: 'All of them', basedOn: 2 });
  });

  it('is left as it was when somebody thinks better of it', async () => {
    server.on('GET', '/api/audiences/{id}', view());
    show(<AudiencePage />, '/audiences/5', '/audiences/:id');
    fireEvent.click(await screen.findByLabelText(/: not, line 1$/));
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'All of them' } });
    fireEvent.click(screen.getByRole('button', { name: 'Discard changes' }));
    expect(screen.getByLabelText(/: not, line 1$/)).toHaveAttribute('aria-pressed', 'false');
    expect(screen.getByRole('heading', { name: 'Everyone' })).toBeVisible();
    expect(screen.queryByRole('button', { name: /^Save version/ })).toBeNull();
    expect(saved()).toHaveLength(0);
  });

  it('is put in service as the version that was saved last', async () => {
    server.on('GET', '/api/audiences/{id}', view());
    server.on('POST', '/api/audiences/{id}/in-service', view({ liveVersion: 2 }));
    show(<AudiencePage />, '/audiences/5', '/audiences/:id');
    fireEvent.click(await screen.findByRole('button', { name: 'Put version 2 in service' }));
    fireEvent.click(screen.getByRole('button', { name: 'Put in service' }));
    expect(await screen.findByText(/version 2 is in service/)).toBeVisible();
    expect(server.askedOf('POST', '/api/audiences/{id}/in-service')[0]?.body).toEqual({ version: 2 });
    expect(screen.queryByRole('button', { name: /Put version/ })).toBeNull();
  });

  it('says what it would do to who is a member before it goes into service', async () => {
    server.on('GET', '/api/audiences/{id}', view());
    show(<AudiencePage />, '/audiences/5', '/audiences/:id');
    await screen.findByLabelText('line 1');
    expect(server.askedOf('POST', '/api/audiences/{id}/effect')).toEqual([]);
    fireEvent.click(screen.getByLabelText(/: not, line 1$/));
    expect(await screen.findByText(/811 would leave/)).toBeVisible();
    expect(server.askedOf('POST', '/api/audiences/{id}/effect')[0]?.body).toMatchObject({
      condition: { conditions: [{ kind: 'not' }] },
    });
  });

  it('shows the failure when there is no such audience', async () => {
    server.refuse('GET', '/api/audiences/{id}', 404, 'There is no audience 99.');
    show(<AudiencePage />, '/audiences/99', '/audiences/:id');
    expect(await screen.findByText('There is no audience 99.')).toBeVisible();
    expect(within(document.body).queryByRole('button', { name: /Save/ })).toBeNull();
  });
});
