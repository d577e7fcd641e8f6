/// <reference types="node" />
import { readFileSync } from 'node:fs';
import type { ErrorObject, ValidateFunction } from 'ajv';
import { Ajv2020 } from 'ajv/dist/2020.js';

/** What the server's OpenAPI document says of an operation, as far as it is needed here. */
interface Operation {
  parameters?: { name: string; in: string; required?: boolean }[];
  requestBody?: { required?: boolean; content: Record<string, unknown> };
  responses: Record<string, { content?: Record<string, unknown> }>;
}

interface Told {
  paths: Record<string, Partial<Record<string, Operation>>>;
}

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** A request that a page made. */
export interface Asked {
  method: string;
  path: string;
  query: Record<string, string>;
  body: unknown;
}

type Answered = { status: number; body: unknown };

/** JSON Pointer (RFC 6901). */
const pointer = (...parts: string[]) =>
  `#/${parts.map((part) => encodeURIComponent(part.replace(/~/g, '~0').replace(/\//g, '~1'))).join('/')}`;

/**
 * Stands in for the server in tests of pages. It answers what a test gives it, and holds both sides to the OpenAPI document: an answer
 * that the server could not give, and a request that it would not understand, fail the test.
 */
export class TestServer {
  readonly asked: Asked[] = [];
  readonly problems: string[] = [];
  private readonly underWay = new Set<Promise<unknown>>();
  private readonly document: () => string;
  /** Read when it is first needed: most tests show no page. */
  private read?: { told: Told; ajv: Ajv2020 };
  private readonly checks = new Map<string, ValidateFunction>();
  private readonly answers = new Map<string, (asked: Asked) => Answered>();

  constructor(document = () => readFileSync('../openapi.json', 'utf8')) {
    this.document = document;
  }

  private get known() {
    if (!this.read) {
      const told = JSON.parse(this.document()) as Told;
      const ajv = new Ajv2020({ strict: false, validateFormats: false, allErrors: false });
      ajv.addSchema(told, 'openapi');
      this.read = { told, ajv };
    }
    return this.read;
  }

  /** Forgets every answer and request. */
  reset() {
    this.asked.length = 0;
    this.problems.length = 0;
    this.answers.clear();
  }

  /** What an operation answers from now on. @param path as the document spells it, such as `/api/runs/{id}` */
  on(method: Method, path: string, answer: unknown = undefined, status = 200) {
    this.by(method, path, () => answer, status);
  }

  /** The same, computed from what is asked. */
  by(method: Method, path: string, answer: (asked: Asked) => unknown, status = 200) {
    if (!this.operation(method, path)) throw new Error(`there is no operation ${method} ${path}`);
    this.answers.set(`${method} ${path}`, (asked) => {
      const body = answer(asked);
      this.checkAnswer(method, path, status, body);
      return { status, body };
    });
  }

  /** A refusal, as the server words one (RFC 9457). */
  refuse(
    method: Method,
    path: string,
    status: number,
    detail: string,
    details: { where: string; message: string }[] = [],
  ) {
    this.on(
      method,
      path,
      {
        status,
        detail,
        title: 'Refused',
        code: 'refused',
        instance: path,
        ...(details.length > 0 && { details }),
      },
      status,
    );
  }

  /** Whether a test said what an operation answers. */
  knows(method: Method, path: string): boolean {
    return this.answers.has(`${method} ${path}`);
  }

  /** What an operation answers whoever asks nothing in particular. */
  told(method: Method, path: string): unknown {
    return this.answers.get(`${method} ${path}`)?.({ method, path, query: {}, body: undefined }).body;
  }

  /** The requests to an operation. */
  askedOf(method: Method, path: string): Asked[] {
    return this.asked.filter((one) => one.method === method && this.template(method, one.path) === path);
  }

  handle(request: Request): Promise<Response> {
    const answer = this.respond(request);
    const over: Promise<unknown> = answer.then(
      () => this.underWay.delete(over),
      () => this.underWay.delete(over),
    );
    this.underWay.add(over);
    return answer;
  }

  /** Waits for the requests that are under way: one of a page that is gone is no concern of the next test. */
  async settle() {
    // What a page began to ask may not have come here yet.
    await new Promise((next) => setTimeout(next));
    while (this.underWay.size > 0) await Promise.all(this.underWay);
  }

  private async respond(request: Request): Promise<Response> {
    const url = new URL(request.url);
    const text = await request.text();
    const asked: Asked = {
      method: request.method,
      path: url.pathname,
      query: Object.fromEntries(url.searchParams),
      body: text === '' ? undefined : (JSON.parse(text) as unknown),
    };
    this.asked.push(asked);
    try {
      const { status, body } = this.answer(asked);
      return new Response(body === undefined ? null : JSON.stringify(body), {
        status,
        headers: body === undefined ? {} : { 'content-type': 'application/json' },
      });
    } catch (problem) {
      // The page shows some failure of its own; the test is told the cause.
      this.problems.push(problem instanceof Error ? problem.message : String(problem));
      throw problem;
    }
  }

  private answer(asked: Asked): Answered {
    const path = this.template(asked.method, asked.path);
    if (path === undefined) throw new Error(`the server has no operation ${asked.method} ${asked.path}`);
    this.checkRequest(asked, path);
    const answer = this.answers.get(`${asked.method} ${path}`);
    if (!answer) throw new Error(`no answer is prepared for ${asked.method} ${path}`);
    return answer(asked);
  }

  private operation(method: string, path: string): Operation | undefined {
    return this.known.told.paths[path]?.[method.toLowerCase()];
  }

  /** The path of the document that a request is for; the one with the fewest parameters when several fit. */
  private template(method: string, path: string): string | undefined {
    return Object.keys(this.known.told.paths)
      .filter((one) => this.operation(method, one))
      .filter((one) => new RegExp(`^${one.replace(/\{[^}]+\}/g, '[^/]+')}$`).test(path))
      .sort((a, b) => a.split('{').length - b.split('{').length)[0];
  }

  private checkRequest(asked: Asked, path: string) {
    const operation = this.operation(asked.method, path) as Operation;
    const name = `${asked.method} ${path}`;
    const known = (operation.parameters ?? []).filter((one) => one.in === 'query');
    for (const given of Object.keys(asked.query))
      if (!known.some((one) => one.name === given)) throw new Error(`${name} has no parameter ${given}`);
    for (const one of known)
      if (one.required && !(one.name in asked.query)) throw new Error(`${name} needs ${one.name}`);
    if (!operation.requestBody) {
      if (asked.body !== undefined) throw new Error(`${name} takes no body`);
      return;
    }
    if (asked.body === undefined) {
      if (operation.requestBody.required) throw new Error(`${name} needs a body`);
      return;
    }
    const at = pointer(
      'paths',
      path,
      asked.method.toLowerCase(),
      'requestBody',
      'content',
      'application/json',
      'schema',
    );
    this.check(`the body of ${name}`, at, asked.body);
  }

  private checkAnswer(method: string, path: string, status: number, body: unknown) {
    const responses = (this.operation(method, path) as Operation).responses;
    const which = responses[status] ? String(status) : 'default';
    const type = Object.keys(responses[which]?.content ?? {})[0];
    const name = `the answer ${status} of ${method} ${path}`;
    if (type === undefined) {
      if (body !== undefined) throw new Error(`${name} has no body`);
      return;
    }
    const at = pointer('paths', path, method.toLowerCase(), 'responses', which, 'content', type, 'schema');
    this.check(name, at, body);
  }

  private check(what: string, at: string, value: unknown) {
    let check = this.checks.get(at);
    if (!check) {
      check = this.known.ajv.compile({ $ref: `openapi${at}` });
      this.checks.set(at, check);
    }
    if (!check(value)) throw new Error(`${what} is not as the document says: ${words(check.errors ?? [])}`);
  }
}

function words(errors: ErrorObject[]): string {
  return errors.map((one) => `${one.instancePath || '/'} ${one.message ?? ''}`).join('; ');
}

/** The one that every test of a page has; emptied after each test. */
export const server = new TestServer();
