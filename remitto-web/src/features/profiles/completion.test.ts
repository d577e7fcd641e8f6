import { describe, expect, it } from 'vitest';
import text from '../../../../remitto-connect/src/main/resources/profiles/profile.schema.json?raw';
import { complete, type Schema } from './completion';

const schema = JSON.parse(text) as Schema;

/** Labels offered where the bar stands. */
function offered(marked: string): string[] {
  const position = marked.indexOf('|');
  const plain = marked.replace('|', '');
  return complete(plain, position, schema).options.map((one) => one.label);
}

describe('completion of profiles', () => {
  it('offers the parts of a profile that are not there yet', () => {
    const labels = offered('profile: a\ntitle: A\n|\nlimits:\n  calls: 1\n');
    expect(labels).toContain('confirm');
    expect(labels).toContain('list');
    expect(labels).not.toContain('title');
    expect(labels).not.toContain('limits');
  });

  it('offers what belongs into the part it stands in', () => {
    expect(offered('limits:\n  calls: 120\n  per|')).toEqual(
      expect.arrayContaining(['period_seconds', 'records_per_call']),
    );
    expect(offered('limits:\n  calls: 120\n  |')).not.toContain('calls');
    expect(offered('list:\n  method: GET\n  paging:\n    |')).toEqual(
      expect.arrayContaining(['kind', 'size', 'total']),
    );
  });

  it('offers the words a value may be', () => {
    expect(offered('confirm: |')).toEqual(['key', 'readback', 'none']);
    expect(offered('list:\n  paging:\n    kind: of|')).toEqual(['cursor', 'offset', 'page', 'link']);
    expect(offered('connection:\n  - name: a\n    secret: |')).toEqual(['true', 'false']);
    expect(offered('authentication:\n  kind: |')).toContain('oauth2-code');
  });

  it('knows lists, in lines and in braces', () => {
    expect(offered('connection:\n  - |')).toEqual(expect.arrayContaining(['name', 'label', 'secret']));
    expect(offered('connection:\n  - {name: a, |')).toEqual(['label', 'example', 'secret', 'ways']);
    expect(offered('authentication:\n  - name: p\n    kind: oauth2-code\n    |')).toEqual(
      expect.arrayContaining(['authorize_path', 'scope']),
    );
    expect(offered('check: {method: |')).toContain('PATCH');
    expect(offered('prerequisites:\n  - name: a\n    check: {place: /a, |')).toEqual(
      expect.arrayContaining(['holds', 'is', 'path']),
    );
  });

  it('says what a part is for', () => {
    const confirm = complete('con', 3, schema).options.find((one) => one.label === 'confirm');
    expect(confirm?.info).toContain('got no answer');
  });

  it('offers nothing in free text and comments', () => {
    expect(offered('title: Some |')).toEqual([]);
    expect(offered('# a note on |')).toEqual([]);
  });
});
