import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show, signIn } from '../../testing/page';
import { Act, ActLink, Editable, Editors } from './Editors';

function Shown({ onAct }: { onAct: () => void }) {
  return (
    <>
      <p>for everybody</p>
      <Editors>
        <p>for editors</p>
      </Editors>
      <Act onClick={onAct}>Save</Act>
      <ActLink to="/routes/new">New route</ActLink>
      <Editable>
        <input aria-label="Name" />
        <button type="button" onClick={onAct}>
          Take out
        </button>
      </Editable>
    </>
  );
}

describe('who may change things', () => {
  it.each(['EDITOR', 'APPROVER', 'ADMIN'] as const)('an %s sees and uses what changes them', async (role) => {
    signIn(role);
    const acted = vi.fn();
    show(<Shown onAct={acted} />);
    fireEvent.click(await screen.findByRole('button', { name: 'Save' }));
    expect(screen.getByText('for editors')).toBeVisible();
    expect(screen.getByRole('link', { name: 'New route' })).toHaveAttribute('href', '/routes/new');
    expect(screen.getByLabelText('Name')).toBeEnabled();
    fireEvent.click(screen.getByRole('button', { name: 'Take out' }));
    expect(acted).toHaveBeenCalledTimes(2);
  });

  it('a viewer reads the same without any of it', async () => {
    signIn('VIEWER');
    show(<Shown onAct={() => undefined} />);
    expect(await screen.findByText('for everybody')).toBeVisible();
    expect(screen.queryByText('for editors')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Save' })).toBeNull();
    expect(screen.queryByRole('link')).toBeNull();
    expect(screen.getByLabelText('Name')).toBeDisabled();
    expect(screen.getByRole('button', { name: 'Take out' })).toBeDisabled();
  });
});
