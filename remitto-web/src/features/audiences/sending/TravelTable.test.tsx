import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { Column, Field } from '../../../api/types';
import type { Travels } from './choice';
import { TravelTable } from './TravelTable';

const COLUMNS: Column[] = [
  { name: 'person_id', type: 'INTEGER', role: 'KEY' },
  { name: 'email', type: 'TEXT', role: 'IDENTIFIER' },
  { name: 'birth_date', type: 'DATE', role: 'SENSITIVE' },
];

const MAIL: Field = {
  name: 'mail',
  title: 'Mail',
  kind: 'EMAIL',
  required: true,
  unique: true,
  readOnly: false,
  writable: true,
  custom: false,
  choices: [],
  theirs: [],
};

function Table({ begin, fields, seen }: { begin: Travels; fields?: Field[]; seen: (now: Travels) => void }) {
  const [travels, setTravels] = useState(begin);
  return (
    <TravelTable
      columns={COLUMNS}
      travels={travels}
      fields={fields}
      onChange={(now) => {
        setTravels(now);
        seen(now);
      }}
    />
  );
}

describe('the columns to send', () => {
  it('goes under a name of its own in a file', () => {
    let now: Travels = {};
    render(<Table begin={{ person_id: 'person_id' }} seen={(travels) => (now = travels)} />);
    fireEvent.click(screen.getByLabelText('Send email'));
    expect(now).toEqual({ person_id: 'person_id', email: 'email' });
    fireEvent.change(screen.getByLabelText('Destination field for email'), {
      target: { value: 'E-mail' },
    });
    expect(now).toEqual({ person_id: 'person_id', email: 'E-mail' });
    fireEvent.click(screen.getByLabelText('Send email'));
    expect(now).toEqual({ person_id: 'person_id' });
    expect(screen.getByText('1 of 3 columns')).toBeInTheDocument();
  });

  it('becomes one of the fields there, which is chosen', () => {
    let now: Travels = {};
    render(<Table begin={{}} fields={[MAIL]} seen={(travels) => (now = travels)} />);
    fireEvent.click(screen.getByLabelText('Send email'));
    expect(now).toEqual({ email: '' });
    fireEvent.change(screen.getByLabelText('Destination field for email'), { target: { value: 'mail' } });
    expect(now).toEqual({ email: 'mail' });
  });

  it('leaves here what is sensitive, and finds columns by their name', () => {
    render(<Table begin={{}} seen={() => undefined} />);
    expect(screen.getByLabelText('Send birth_date')).toBeDisabled();
    fireEvent.change(screen.getByLabelText('Find a column'), { target: { value: 'MAIL' } });
    expect(screen.getByText('email')).toBeInTheDocument();
    expect(screen.queryByText('person_id')).not.toBeInTheDocument();
  });
});
