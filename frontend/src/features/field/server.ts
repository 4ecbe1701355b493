import { api, data, Problem } from '@/api/client';
import type { Deed } from './sync/deeds';
import { PhoneSignedOut, type FieldServer } from './sync/phone';
import { SignedOut } from './sync/sender';

/** With a bad signal an answer may never come: after so long it is asked again. */
const PATIENCE = 30_000;

/** The server, as a phone speaks to it. */
export const fieldServer: FieldServer = {
  async register(phoneId) {
    const answer = await data(
      api.POST('/api/v1/field/phones', { body: { id: phoneId, name: deviceName() } }),
    );
    return { key: Uint8Array.from(atob(answer.key), (letter) => letter.charCodeAt(0)), now: answer.now };
  },
  post: (phoneId, deeds) =>
    asPhone(phoneId, () =>
      api.POST('/api/v1/field/deeds', {
        body: { phone: phoneId, deeds: deeds.map(onTheWire) },
        signal: patience(),
      }),
    ),
  along: (phoneId, known) =>
    asPhone(phoneId, () =>
      api.POST('/api/v1/field/along', { body: { phone: phoneId, known }, signal: patience() }),
    ),
  piece: async (phoneId, pictureId, at, piece) => {
    try {
      return await asPhone(phoneId, () =>
        api.POST('/api/v1/field/pictures/{picture_id}', {
          params: { path: { picture_id: pictureId } },
          body: { at, file: '' },
          bodySerializer: () => formOf(at, piece),
          signal: patience(),
        }),
      );
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (error.status === 409) return { from: error.stands };
      if (error.status === 404) return 'later';
      if (error.status === 422) return { refused: error.message };
      throw error;
    }
  },
};

function formOf(at: number, piece: Uint8Array<ArrayBuffer>): FormData {
  const form = new FormData();
  form.set('at', String(at));
  form.set('file', new Blob([piece]), 'piece');
  return form;
}

/** Asks as a phone does: whom the server does not know any more, or has signed out, learns that apart. */
async function asPhone<T>(phoneId: string, ask: () => Promise<{ data?: T }>): Promise<T> {
  try {
    return await data(ask());
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    if (error.code === 'phone_signed_out') throw new PhoneSignedOut();
    if (error.status !== 401 && error.status !== 403) throw error;
    // A session ends by itself or by the office; only the phone's own stand says which.
    const path = { phone_id: phoneId };
    const { open } = await data(api.GET('/api/v1/field/phones/{phone_id}/stand', { params: { path } }));
    throw open ? new SignedOut() : new PhoneSignedOut();
  }
}

function patience(): AbortSignal {
  const given = new AbortController();
  setTimeout(() => given.abort(), PATIENCE);
  return given.signal;
}

const onTheWire = (deed: Deed) => ({
  id: deed.id,
  number: deed.number,
  previous: deed.previous,
  kind: deed.kind,
  visit_id: deed.visitId,
  body: deed.body as Record<string, unknown>,
  based_on: deed.basedOn as { state: 'sent'; start: number | null } | null,
  device_at: deed.deviceAt,
  happened_at: deed.happenedAt,
  where: deed.where && {
    lon: deed.where.lon,
    lat: deed.where.lat,
    accuracy_metres: deed.where.accuracyMetres,
  },
});

/** What the office calls the phone: enough to tell two of one person apart. */
function deviceName(): string {
  const { userAgent } = navigator;
  const system = /Android|iPhone|iPad|Windows|Mac OS|Linux/.exec(userAgent)?.[0] ?? 'a device';
  const browser = /Firefox|Edg|Chrome|Safari/.exec(userAgent)?.[0] ?? 'a browser';
  return `${browser} on ${system}`;
}
