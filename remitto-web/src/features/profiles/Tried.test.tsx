import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { BenchTried } from '../../api/types';
import { Tried } from './Tried';

const TRIED: BenchTried = {
  problem: '',
  reading: {
    sentence: '1 record',
    columns: ['id', 'ref'],
    rows: [['7', 'P-1']],
    more: 'This is the last page',
  },
  calls: [
    {
      method: 'POST',
      address: 'http://127.0.0.1/token',
      headers: { Authorization: '•••' },
      body: '',
      status: 200,
      answerHeaders: {},
      answer: '{"access_token":"•••"}',
      millis: 4,
    },
    {
      method: 'GET',
      address: 'http://127.0.0.1/all',
      headers: {},
      body: '',
      status: 0,
      answerHeaders: {},
      answer: '',
      millis: 0,
    },
  ],
};

describe('a call on the bench', () => {
  it('is shown as it was read, with the last of its calls open', () => {
    render(<Tried tried={TRIED} />);
    expect(screen.getByRole('status')).toHaveTextContent('Interpreted as 1 record. This is the last page.');
    expect(screen.getByRole('cell', { name: 'P-1' })).toBeInTheDocument();
    const [token, list] = screen.getAllByRole('button');
    expect(token).toHaveAttribute('aria-expanded', 'false');
    expect(list).toHaveAttribute('aria-expanded', 'true');
    expect(list).toHaveTextContent('not sent');
    if (token) fireEvent.click(token);
    expect(screen.getByText(/"access_token": "•••"/)).toBeInTheDocument();
  });

  it('says what went wrong in place of how it was read', () => {
    render(<Tried tried={{ ...TRIED, problem: 'the answer is not JSON' }} />);
    expect(screen.getByRole('status')).toHaveTextContent('the answer is not JSON');
  });
});
