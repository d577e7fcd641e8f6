import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter, useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import { type ListColumn, ListTable } from './ListTable';

interface Ship {
  id: number;
  name: string;
  crew?: number;
}
const SHIPS: Ship[] = [
  { id: 1, name: 'Tern 10', crew: 9 },
  { id: 2, name: 'Ægir', crew: 40 },
  { id: 3, name: 'Tern 2' },
  { id: 4, name: 'auk', crew: 100 },
];
const COLUMNS: ListColumn<Ship>[] = [
  { id: 'name', title: 'Name', by: (ship) => ship.name, cell: (ship) => ship.name },
  { id: 'crew', title: 'Crew', by: (ship) => ship.crew, cell: (ship) => ship.crew, right: true },
  { id: 'bell', title: 'Bell', cell: () => 'brass' },
];

function Address() {
  return (
    <div role="note" aria-label="Address">
      {useLocation().search}
    </div>
  );
}

function show(at = '/', bulk = false, main = true) {
  render(
    <MemoryRouter initialEntries={[at]}>
      <ListTable
        main={main}
        of={['ship', 'ships']}
        rows={SHIPS}
        id={(ship) => ship.id}
        name={(ship) => ship.name}
        words={(ship) => `${ship.name} ${ship.crew === undefined ? 'unmanned' : ''}`}
        columns={COLUMNS}
        acts={bulk ? (chosen) => <p>scrap {chosen.map((ship) => ship.name).join(' and ')}</p> : undefined}
      />
      <textarea aria-label="Log" />
      <Address />
    </MemoryRouter>,
  );
}

const names = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0]?.textContent);
const find = () => screen.getByLabelText('Find ships');
const sort = (title: string) => fireEvent.click(screen.getByRole('button', { name: title }));

describe('a list', () => {
  it('stands in the order it is given until a column is asked for', () => {
    show();
    expect(names()).toEqual(['Tern 10', 'Ægir', 'Tern 2', 'auk']);
    expect(screen.getByRole('columnheader', { name: 'Name' })).toHaveAttribute('aria-sort', 'none');
  });

  it('is sorted as people sort: numbers in names by their size, whatever the case', () => {
    show();
    sort('Name');
    expect(names()).toEqual(['Ægir', 'auk', 'Tern 2', 'Tern 10']);
    expect(screen.getByRole('columnheader', { name: 'Name' })).toHaveAttribute('aria-sort', 'ascending');
    sort('Name');
    expect(names()).toEqual(['Tern 10', 'Tern 2', 'auk', 'Ægir']);
    expect(screen.getByRole('columnheader', { name: 'Name' })).toHaveAttribute('aria-sort', 'descending');
  });

  it('has rows without a value last, in either order', () => {
    show();
    sort('Crew');
    const one = names();
    sort('Crew');
    const other = names();
    expect([one[3], other[3]]).toEqual(['Tern 2', 'Tern 2']);
    expect([one, other]).toContainEqual(['Tern 10', 'Ægir', 'auk', 'Tern 2']);
  });

  it('cannot be sorted by what has no order', () => {
    show();
    expect(screen.queryByRole('button', { name: 'Bell' })).toBeNull();
    expect(screen.getByRole('columnheader', { name: 'Bell' })).not.toHaveAttribute('aria-sort');
  });

  it('is searched by all words at once, and says how many are left', () => {
    show();
    fireEvent.change(find(), { target: { value: 'unmanned TERN' } });
    expect(names()).toEqual(['Tern 2']);
    expect(screen.getByRole('status')).toHaveTextContent('1 of 4 ships');
    fireEvent.change(find(), { target: { value: 'submarine' } });
    expect(screen.getByText('No ship matches.')).toBeVisible();
  });

  it('keeps search and order in the address, and begins with those of it', () => {
    show('/?find=tern&sort=-name');
    expect(names()).toEqual(['Tern 10', 'Tern 2']);
    expect(find()).toHaveValue('tern');
    fireEvent.change(find(), { target: { value: '' } });
    expect(screen.getByLabelText('Address')).toHaveTextContent('?sort=-name');
  });

  it('keeps to an address part of its own beside another list', () => {
    show('/?find=tern', false, false);
    expect(names()).toHaveLength(4);
    fireEvent.change(find(), { target: { value: 'auk' } });
    expect(screen.getByLabelText('Address')).toHaveTextContent('?find=tern&ships-find=auk');
  });

  it('is reached by the key / from anywhere but where somebody writes', () => {
    show();
    fireEvent.keyDown(screen.getByLabelText('Log'), { key: '/' });
    expect(find()).not.toHaveFocus();
    fireEvent.keyDown(document.body, { key: '/' });
    expect(find()).toHaveFocus();
  });

  it('offers no choice of rows where nothing can be done with several', () => {
    show();
    expect(screen.queryByRole('checkbox')).toBeNull();
  });

  it('does something with the rows that are chosen, and with no row that is not shown', () => {
    show('/', true);
    fireEvent.click(screen.getByLabelText('Select Ægir'));
    expect(screen.getByText('scrap Ægir')).toBeVisible();
    fireEvent.click(screen.getByLabelText('Select all ships'));
    expect(screen.getByRole('status')).toHaveTextContent('4 selected');
    fireEvent.change(find(), { target: { value: 'tern' } });
    expect(screen.getByText('scrap Tern 10 and Tern 2')).toBeVisible();
  });
});
