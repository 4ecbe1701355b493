/** Bytes that nobody reads without the key: twelve of a nonce, then what AES-GCM makes of the value. */
export type Sealed = Uint8Array<ArrayBuffer>;

/** Closes values before they are kept, and opens them again. */
export interface Seal {
  close(value: unknown): Promise<Sealed>;
  open<T>(sealed: Sealed): Promise<T>;
}

const NONCE = 12;

/**
 * A key that a browser keeps but never gives out again.
 *
 * @param bytes 32 of them, as the server keeps them for this phone and this person
 */
export const keyFrom = (bytes: Sealed) =>
  crypto.subtle.importKey('raw', bytes, 'AES-GCM', false, ['encrypt', 'decrypt']);

export function sealedWith(key: CryptoKey): Seal {
  return {
    async close(value) {
      const nonce = crypto.getRandomValues(new Uint8Array(NONCE));
      const plain = new TextEncoder().encode(JSON.stringify(value));
      const closed = await crypto.subtle.encrypt({ name: 'AES-GCM', iv: nonce }, key, plain);
      const sealed = new Uint8Array(NONCE + closed.byteLength);
      sealed.set(nonce);
      sealed.set(new Uint8Array(closed), NONCE);
      return sealed;
    },
    async open<T>(sealed: Sealed) {
      const iv = sealed.slice(0, NONCE);
      const plain = await crypto.subtle.decrypt({ name: 'AES-GCM', iv }, key, sealed.slice(NONCE));
      return JSON.parse(new TextDecoder().decode(plain)) as T;
    },
  };
}
