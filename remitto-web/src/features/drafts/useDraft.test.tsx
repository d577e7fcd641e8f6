import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { Link } from 'react-router';
import { describe, expect, it } from 'vitest';
import { Input } from '../../components/ui';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { Drafted } from './Drafted';
import { EditBar } from './EditBar';
import type { Place } from './draftCalls';
import { useDraft } from './useDraft';
import type { Draft } from '../../api/types';

const PLACE: Place = { kind: 'CROSSWALK', subject: '3', title: 'Ports' };
const PATH = '/api/drafts/{kind}/{subject}';

function Editor({ draft, version = 2 }: { draft: Draft | undefined; version?: number }) {
  const edit = useDraft({ place: PLACE, saved: { name: 'Ports', size: 1 }, version, draft });
  return (
    <>
      <Input
        aria-label="Name"
        value={edit.value.name}
        onChange={(e) => edit.change({ ...edit.value, name: e.target.value })}
      />
      <output aria-label="Size">{edit.value.size}</output>
      <Link to="/away">Away</Link>
      <EditBar
        edit={edit}
        version={version}
        author="Oskar Lind"
        pending={false}
        onSave={() => edit.saved()}
      />
    </>
  );
}

const open = (version?: number) =>
  show(
    <Drafted place={PLACE} title="Crosswalk">
      {(draft) => <Editor draft={draft} version={version} />}
    </Drafted>,
    '/here',
    '/here',
  );
const name = () => screen.findByLabelText('Name');
const type = async (text: string) => fireEvent.change(await name(), { target: { value: text } });
const kept = () => server.askedOf('PUT', PATH).map((one) => one.body);
const keptBefore = (content: object, basedOn: number) =>
  server.on('GET', PATH, {
    draft: { kind: 'CROSSWALK', subject: '3', title: 'Ports', basedOn, content, savedAt: AT },
  });

describe('an edit', () => {
  it('is kept a moment after the last key, once', async () => {
    open();
    await type('P');
    await type('Po');
    await type('Port');
    expect(kept()).toEqual([]);
    await waitFor(
      () => expect(kept()).toEqual([{ title: 'Ports', basedOn: 2, content: { name: 'Port', size: 1 } }]),
      {
        timeout: 3000,
      },
    );
    expect(await screen.findByText(/kept as a draft at/)).toBeVisible();
  });

  it('is kept at once when its page is left before that', async () => {
    open();
    await type('Harbours');
    fireEvent.click(screen.getByRole('link', { name: 'Away' }));
    await waitFor(() =>
      expect(kept()).toEqual([{ title: 'Ports', basedOn: 2, content: { name: 'Harbours', size: 1 } }]),
    );
  });

  it('is kept when the window is closed', async () => {
    open();
    await type('Harbours');
    act(() => void window.dispatchEvent(new Event('pagehide')));
    await waitFor(() => expect(kept()).toHaveLength(1));
  });

  it('is found again, and a part it lacks is as it is saved', async () => {
    keptBefore({ name: 'Harbours' }, 2);
    open();
    expect(await name()).toHaveValue('Harbours');
    expect(screen.getByLabelText('Size')).toHaveTextContent('1');
    expect(screen.getByText(/Restored your unsaved changes from/)).toBeVisible();
    expect(screen.getByRole('button', { name: 'Save version 3' })).toBeEnabled();
  });

  it('says so when another version was saved meanwhile, and asks before replacing it', async () => {
    keptBefore({ name: 'Harbours' }, 2);
    open(4);
    expect(
      await screen.findByText(/Version 4 by Oskar Lind was saved after you began from version 2/),
    ).toBeVisible();
    expect(screen.getByRole('button', { name: 'Save version 5' })).toBeDisabled();
    fireEvent.click(screen.getByRole('button', { name: 'Continue anyway' }));
    expect(screen.getByRole('button', { name: 'Save version 5' })).toBeEnabled();
    await waitFor(
      () => expect(kept()).toEqual([{ title: 'Ports', basedOn: 4, content: { name: 'Harbours', size: 1 } }]),
      {
        timeout: 3000,
      },
    );
  });

  it('leaves nothing behind once it is saved', async () => {
    open();
    await type('Harbours');
    fireEvent.click(screen.getByRole('button', { name: 'Save version 3' }));
    await waitFor(() => expect(server.askedOf('DELETE', PATH)).toHaveLength(1));
    cleanup();
    await server.settle();
    expect(kept()).toEqual([]);
  });

  it('is forgotten when it is discarded, and when it comes to what is saved', async () => {
    keptBefore({ name: 'Harbours' }, 2);
    open();
    await name();
    fireEvent.click(screen.getByRole('button', { name: 'Discard changes' }));
    expect(await name()).toHaveValue('Ports');
    expect(screen.queryByRole('region', { name: 'Unsaved changes' })).toBeNull();
    await waitFor(() => expect(server.askedOf('DELETE', PATH)).toHaveLength(1), { timeout: 3000 });
    expect(kept()).toEqual([]);
  });

  it('that was not changed keeps nothing, and lets the window be closed', async () => {
    open();
    await name();
    const closing = new Event('beforeunload', { cancelable: true });
    window.dispatchEvent(closing);
    expect(closing.defaultPrevented).toBe(false);
    cleanup();
    await server.settle();
    expect(kept()).toEqual([]);
    expect(server.askedOf('DELETE', PATH)).toEqual([]);
  });

  it('that cannot be kept says why, and is asked about before the page is left', async () => {
    server.refuse('PUT', PATH, 422, 'This edit is too long to be kept as a draft. Save it.');
    open();
    await type('Harbours');
    expect(
      await screen.findByText(/not kept as a draft: This edit is too long/, {}, { timeout: 3000 }),
    ).toBeVisible();
    const closing = new Event('beforeunload', { cancelable: true });
    window.dispatchEvent(closing);
    expect(closing.defaultPrevented).toBe(true);
    fireEvent.click(screen.getByRole('link', { name: 'Away' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Stay' }));
    expect(screen.getByLabelText('Address')).toHaveTextContent('/here');
    expect(screen.getByLabelText('Name')).toHaveValue('Harbours');
    fireEvent.click(screen.getByRole('link', { name: 'Away' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Leave' }));
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/away'));
  });

  it('of a viewer does not exist', async () => {
    signIn('VIEWER');
    open();
    expect(await name()).toHaveValue('Ports');
    expect(server.askedOf('GET', PATH)).toEqual([]);
    expect(screen.queryByRole('button', { name: /Save/ })).toBeNull();
  });
});
