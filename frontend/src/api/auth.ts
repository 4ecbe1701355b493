// Signing in and one's own account: answered by the server's account package, in its own shape.

import { csrfHeaders, Problem } from './client';

const BASE = '/api/auth/browser/v1';

interface Flow {
  id: string;
  is_pending?: boolean;
  types?: string[];
}

interface Answer<Data, Meta> {
  status: number;
  data: Data;
  meta: Meta;
}

/** What somebody has to do first: sign in wholly, or give the password once more. */
export class FirstThis extends Error {
  constructor(
    readonly step: 'sign_in' | 'second_step' | 'password',
    /** For the second step: the kinds of factors this account has. */
    readonly factors: readonly string[] = [],
  ) {
    super('The password is needed once more.');
  }
}

/**
 * Ask for something of signing in or one's own account.
 *
 * Throws a Problem when it is refused, and FirstThis when something else comes first.
 */
export async function auth<Data = unknown, Meta = unknown>(
  method: 'GET' | 'POST' | 'DELETE',
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer<Data, Meta>> {
  const request = new Request(new URL(BASE + path, globalThis.location.origin), {
    method,
    headers: { ...csrfHeaders(), 'Content-Type': 'application/json', ...headers },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  let response: Response;
  try {
    response = await globalThis.fetch(request);
  } catch {
    throw new Problem(0, 'offline', 'No connection to the server. Try again.');
  }
  const said = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (response.status === 401) throw firstThis(said);
  // An account that has no second factor says so with 404, and with what makes one.
  if (!response.ok && !(response.status === 404 && said.meta)) throw problemOf(response.status, said);
  return { status: response.status, data: said.data as Data, meta: said.meta as Meta };
}

function firstThis(said: Record<string, unknown>): FirstThis {
  const flows = ((said.data as { flows?: Flow[] } | undefined)?.flows ?? []) as Flow[];
  const second = flows.find((flow) => flow.id === 'mfa_authenticate' && flow.is_pending);
  if (second) return new FirstThis('second_step', second.types ?? ['totp']);
  if (flows.some((flow) => flow.id === 'reauthenticate')) return new FirstThis('password');
  return new FirstThis('sign_in');
}

function problemOf(status: number, said: Record<string, unknown>): Problem {
  const first = (said.errors as { message: string; code: string; param?: string }[] | undefined)?.[0];
  if (status === 429 && !first) return new Problem(429, 'rate_limited', 'Too many tries. Wait a little.');
  const sentence = first?.message ?? String(said.title ?? `The server answered ${status}.`);
  return new Problem(status, first?.code ?? 'http', sentence, first?.param ?? '');
}
