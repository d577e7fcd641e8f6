import { screen } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Differing } from '../../api/types';
import { show } from '../../testing/page';
import { DatasetDifferences } from './DatasetDifferences';

const differing = (over: Partial<Differing> = {}): Differing => ({
  before: 'select id',
  after: 'select id',
  columns: [],
  dropped: [],
  expected: [],
  ...over,
});

beforeEach(() => {
  // Measures of text, which are not there outside a browser.
  Range.prototype.getClientRects = () => [] as unknown as DOMRectList;
  Range.prototype.getBoundingClientRect = () => new DOMRect();
});

describe('differences of a dataset', () => {
  it('tell what is expected and what is not any more, and nothing of a query that is the same', () => {
    show(
      <DatasetDifferences
        differences={differing({
          dropped: ['email is unique'],
          expected: ['email is never empty (holds rows)'],
        })}
      />,
    );
    expect(screen.getByText('expects that email is unique').tagName).toBe('DEL');
    expect(screen.getByText('expects that email is never empty (holds rows)').tagName).toBe('INS');
    expect(screen.queryByText('No differences.')).toBeNull();
  });

  it('say that there are none', () => {
    show(<DatasetDifferences differences={differing()} />);
    expect(screen.getByText('No differences.')).toBeVisible();
  });
});
