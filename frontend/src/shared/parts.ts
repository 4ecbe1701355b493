// Large files are sent in parts: each is small enough for any request, and one that was lost is sent again.

import { api, data, Problem } from '@/api/client';

const PART = 8 * 1024 * 1024;
const TRIES = 4;

/** Sends a file; answers the key by which the server knows it. `onShare`: how much is there, 0 to 1. */
export async function sendInParts(file: File, onShare: (share: number) => void): Promise<string> {
  const key = crypto.randomUUID();
  let at = 0;
  let failed = 0;
  do {
    try {
      at = await sendPart(key, at, file.slice(at, at + PART));
      failed = 0;
      onShare(file.size ? at / file.size : 1);
    } catch (error) {
      // Refused for good, or tried often enough.
      if ((error instanceof Problem && error.status >= 400 && error.status < 500) || ++failed === TRIES)
        throw error;
      await new Promise((done) => setTimeout(done, 500 * failed));
    }
  } while (at < file.size);
  return key;
}

async function sendPart(key: string, at: number, part: Blob): Promise<number> {
  const form = new FormData();
  form.append('at', String(at));
  form.append('file', part, 'part');
  const sent = await data(
    api.POST('/api/v1/uploads/{key}', {
      params: { path: { key } },
      body: { at, file: '' },
      bodySerializer: () => form,
    }),
  );
  return sent.length;
}
