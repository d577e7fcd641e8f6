import createClient from 'openapi-fetch';
import { at, here } from '../components/base';
import type { paths } from './schema';

/** A problem document (RFC 9457) the server answered with. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly details: { where: string; message: string }[],
    readonly position?: number,
  ) {
    super(message);
  }

  /** Whether signing in needs the code of a second factor, or another than was given. */
  get asksForCode() {
    return this.details.some((one) => one.where === 'second-factor');
  }

  /** Whether somebody else, who may approve, has to do it. */
  get isForApprover() {
    return this.details.some((one) => one.where === 'approver');
  }
}

function cookie(name: string): string {
  const found = document.cookie.split('; ').find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : '';
}

export const api = createClient<paths>({ baseUrl: at('/') });

api.use({
  onRequest({ request }) {
    const token = cookie('XSRF-TOKEN');
    if (token) request.headers.set('X-XSRF-TOKEN', token);
    return request;
  },
});

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The body of a successful answer; throws the problem otherwise. */
export async function ok<T>(call: Promise<Answer<T>>): Promise<T> {
  const answer = await call;
  if (answer.response.ok) return answer.data as T;
  const problem = (answer.error ?? {}) as {
    detail?: string;
    details?: { where: string; message: string }[];
    position?: number;
  };
  if (answer.response.status === 401 && !here().startsWith('/sign-in'))
    location.assign(at(`/sign-in?to=${encodeURIComponent(here() + location.search)}`));
  throw new ApiProblem(
    answer.response.status,
    problem.detail ??
      (answer.response.status === 403
        ? 'Your role does not allow this.'
        : `The server answered ${answer.response.status}.`),
    problem.details ?? [],
    problem.position,
  );
}
