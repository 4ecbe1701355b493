import { sentenceOf } from '@/api/client';

/** Why something could not be kept on this phone, in words that say what to do. */
export function inWords(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  const inner = (error as { inner?: Error } | null)?.inner?.name ?? '';
  if ([name, inner].includes('QuotaExceededError'))
    return 'There is no room left on this phone: it was not kept. Send what is here, or clear something away, and try again.';
  if (!globalThis.crypto?.subtle)
    return 'This page was opened over an address that is not safe (http). Open it over https: only then can a phone keep anything.';
  return sentenceOf(error);
}
