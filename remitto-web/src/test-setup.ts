import '@testing-library/jest-dom/vitest';
import { cleanup, configure } from '@testing-library/react';
import { afterEach, expect } from 'vitest';
import { server } from './testing/server';

// What is waited for ends the waiting; the second that is the default is too short on a busy machine.
configure({ asyncUtilTimeout: 20_000 });

/** Addresses of pages have no host, and outside a browser none is added to them. */
class PageRequest extends Request {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, 'http://remitto.example') : input, init);
  }
}

globalThis.Request = PageRequest;
globalThis.fetch = (input, init) =>
  server.handle(input instanceof Request ? input : new PageRequest(input, init));

afterEach(async () => {
  cleanup();
  await server.settle();
  const problems = [...server.problems];
  server.reset();
  expect(problems, 'what a page asked, or was answered, beside the OpenAPI document').toEqual([]);
});
