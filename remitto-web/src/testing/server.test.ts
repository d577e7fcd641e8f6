import { describe, expect, it } from 'vitest';
import { TestServer } from './server';

const HELD = { total: 0, groups: [] };

async function asked(server: TestServer, method: string, path: string, body?: unknown) {
  return server.handle(
    new Request(path, { method, ...(body === undefined ? {} : { body: JSON.stringify(body) }) }),
  );
}

describe('the stand-in for the server', () => {
  it('gives the answer that was prepared, and tells what was asked', async () => {
    const server = new TestServer();
    server.on('GET', '/api/held', HELD);
    server.on('GET', '/api/runs/{id}', undefined, 404);
    const answer = await asked(server, 'GET', '/api/held');
    expect(answer.status).toBe(200);
    expect(await answer.json()).toEqual(HELD);
    expect(server.askedOf('GET', '/api/held')).toEqual([
      { method: 'GET', path: '/api/held', query: {}, body: undefined },
    ]);
    expect(server.problems).toEqual([]);
  });

  it('refuses to be given what the server has no operation for', () => {
    const server = new TestServer();
    expect(() => server.on('GET', '/api/nowhere', {})).toThrow('there is no operation GET /api/nowhere');
    expect(() => server.on('DELETE', '/api/held', {})).toThrow('there is no operation DELETE /api/held');
  });

  it.each([
    [
      'an answer that lacks something',
      'GET',
      '/api/held',
      { total: 0 },
      "must have required property 'groups'",
    ],
    [
      'an answer of another type',
      'GET',
      '/api/held',
      { total: 'none', groups: [] },
      '/total must be integer',
    ],
  ] as const)('finds %s', async (_, method, path, answer, problem) => {
    const server = new TestServer();
    server.on(method, path, answer);
    await expect(asked(server, method, path)).rejects.toThrow(problem);
    expect(server.problems.join()).toContain(problem);
  });

  it.each([
    ['an operation that there is none of', 'POST', '/api/held', {}, 'no operation POST /api/held'],
    [
      'what nothing is prepared for',
      'GET',
      '/api/routes',
      undefined,
      'no answer is prepared for GET /api/routes',
    ],
    [
      'a parameter of no such name',
      'GET',
      '/api/held/records?colour=red',
      undefined,
      'has no parameter colour',
    ],
    [
      'a parameter that is missing',
      'GET',
      '/api/crosswalks/3/unmapped?datasetId=1',
      undefined,
      'needs column',
    ],
    ['a body that is missing', 'POST', '/api/routes/3/held/retry', undefined, 'needs a body'],
    ['a body where none is taken', 'POST', '/api/runs/3/cancel', { now: true }, 'takes no body'],
    [
      'a body of another shape',
      'POST',
      '/api/routes/3/held/retry',
      { code: 7, keys: [] },
      '/code must be string',
    ],
  ] as const)('finds a request for %s', async (_, method, path, body, problem) => {
    const server = new TestServer();
    await expect(asked(server, method, path, body)).rejects.toThrow(problem);
    expect(server.problems.join()).toContain(problem);
  });

  it('takes the operation with the fewest parameters where several fit', async () => {
    const server = new TestServer();
    server.on('POST', '/api/crosswalks/read-csv', [{ from: 'a', to: 'b' }]);
    const answer = await asked(server, 'POST', '/api/crosswalks/read-csv', { text: 'a,b' });
    expect(await answer.json()).toEqual([{ from: 'a', to: 'b' }]);
  });

  it('words a refusal as the server does', async () => {
    const server = new TestServer();
    server.refuse('GET', '/api/held', 403, 'Your role does not allow this.');
    const answer = await asked(server, 'GET', '/api/held');
    expect(answer.status).toBe(403);
    expect(await answer.json()).toMatchObject({ detail: 'Your role does not allow this.' });
    server.reset();
    await expect(asked(server, 'GET', '/api/held')).rejects.toThrow('no answer is prepared');
  });

  it('waits for what is still under way before a test is over', async () => {
    const server = new TestServer();
    server.on('GET', '/api/users', []);
    let over = false;
    setTimeout(() => void asked(server, 'GET', '/api/users').then(() => (over = true)));
    await server.settle();
    expect(over).toBe(true);
    expect(server.problems).toEqual([]);
  });
});
