import { describe, expect, it } from 'vitest';
import { addressWords, another, BEGINNING, chosen, same, trimmed } from './addresses';

const DIALECTS = [
  { name: 'postgresql', title: 'PostgreSQL', port: 5432, tls: true },
  { name: 'harbour', title: 'Harbour store', port: 900, tls: false },
];

describe('addresses of sources', () => {
  it('become those of another kind and back', () => {
    const harbour = another({ ...BEGINNING, host: 'db.example' }, 'harbour', DIALECTS);
    expect(harbour).toMatchObject({ host: 'db.example', port: 900, tls: 'OFF', dialect: 'harbour' });
    expect(another(harbour, 'postgresql', DIALECTS)).toMatchObject({ port: 5432, dialect: undefined });
    expect(another(harbour, 'folder', DIALECTS)).toEqual({ kind: 'folder', folder: '' });
    expect(chosen(another(harbour, 'file-server', DIALECTS))).toBe('file-server');
    expect(chosen(another({ kind: 'upload' }, 'postgresql', DIALECTS))).toBe('postgresql');
  });

  it('say where a source is', () => {
    expect(addressWords({ kind: 'folder', folder: '' })).toBe('the inbox folder');
    expect(addressWords({ kind: 'upload' })).toBe('uploaded here');
    expect(
      addressWords({
        kind: 'file-server',
        host: 'drop.example',
        port: 22,
        folder: '/lists',
        user: 'quay',
        hostKey: '',
      }),
    ).toBe('quay@drop.example:22/lists');
  });

  it('are the same without what was not said, and without spaces around what was typed', () => {
    expect(same({ ...BEGINNING, dialect: undefined }, BEGINNING)).toBe(true);
    expect(same(trimmed({ ...BEGINNING, host: ' db ' }), { ...BEGINNING, host: 'db' })).toBe(true);
    expect(same({ ...BEGINNING, user: 'other' }, BEGINNING)).toBe(false);
  });
});
