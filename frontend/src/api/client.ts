import createClient, { type Middleware } from 'openapi-fetch';
import type { paths } from './generated/schema';

/** What the server says when something fails: a code for programs, a sentence for people. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    sentence: string,
    readonly field: string = '',
    readonly reasons: string[] = [],
    /** Where something stands at the server, if that is why. */
    readonly stands: number = 0,
  ) {
    super(sentence);
  }
}

let csrfToken = '';

/** This tab: undoing here takes back what was done here. It outlives a reload. */
function screen_(): string {
  const known = sessionStorage.getItem('iron-relay.screen');
  if (known) return known;
  const made = crypto.randomUUID().slice(0, 36);
  sessionStorage.setItem('iron-relay.screen', made);
  return made;
}

export function setCsrfToken(token: string) {
  csrfToken = token;
}

/** What proves that a change comes from this page: the cookie says what counts now, also to a page opened without a signal. */
export const csrfHeaders = () => ({ 'X-CSRFToken': cookie('relay_csrf') ?? csrfToken });

const cookie = (name: string) =>
  globalThis.document?.cookie
    .split('; ')
    .find((pair) => pair.startsWith(`${name}=`))
    ?.slice(name.length + 1);

const middleware: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfHeaders()['X-CSRFToken']);
    request.headers.set('X-Screen', screen_());
    return request;
  },
  async onResponse({ response }) {
    if (response.ok) return response;
    const body = (await response
      .clone()
      .json()
      .catch(() => ({}))) as Record<string, unknown>;
    throw new Problem(
      response.status,
      String(body.code ?? 'http'),
      String(body.title ?? body.detail ?? `The server answered ${response.status}.`),
      String(body.field ?? ''),
      Array.isArray(body.reasons) ? body.reasons.map(String) : [],
      Number(body.current_version ?? 0),
    );
  },
  onError({ request }) {
    // What has a key is done once however often it is sent; of the rest nobody knows whether it arrived.
    const again =
      request.method === 'GET' || request.headers.has('Idempotency-Key')
        ? 'Try again.'
        : 'Look whether it was done before you try again.';
    return new Problem(0, 'offline', `No connection to the server. ${again}`);
  },
};

export const api = createClient<paths>({ baseUrl: globalThis.location?.origin ?? '' });
api.use(middleware);

/**
 * The address of something that is fetched by a link, a picture or the map. Only what the server has can be named.
 * `query` is what follows the question mark.
 */
export function urlOf(
  path: keyof paths,
  names: Record<string, string | number> = {},
  query: Record<string, string | number> = {},
): string {
  const filled = path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(names[name] ?? ''));
  const asked = new URLSearchParams(Object.entries(query).map(([name, value]) => [name, String(value)]));
  return asked.size > 0 ? `${filled}?${asked}` : filled;
}

/** The data of an answer; failures have been thrown as Problem by then. */
export async function data<T>(answer: Promise<{ data?: T }>): Promise<T> {
  return (await answer).data as T;
}

export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : 'Something went wrong.';
}
