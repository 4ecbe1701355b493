/** Bytes that nobody reads without the key: twelve of a nonce, then what AES-GCM makes of the value. */
export type Sealed = Uint8Array<ArrayBuffer>;

/** Closes values before they are kept, and opens them again. */
export interface Seal {
  close(value: unknown): Promise<Sealed>;
  open<T>(sealed: Sealed): Promise<T>;
  closeBytes(plain: Sealed): Promise<Sealed>;
  openBytes(sealed: Sealed): Promise<Sealed>;
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
  const closeBytes = async (plain: Sealed) => {
    const nonce = crypto.getRandomValues(new Uint8Array(NONCE));
    const closed = await crypto.subtle.encrypt({ name: 'AES-GCM', iv: nonce }, key, plain);
    const sealed = new Uint8Array(NONCE + closed.byteLength);
    sealed.set(nonce);
    sealed.set(new Uint8Array(closed), NONCE);
    return sealed;
  };
  const openBytes = async (sealed: Sealed) => {
    const iv = sealed.slice(0, NONCE);
    return new Uint8Array(await crypto.subtle.decrypt({ name: 'AES-GCM', iv }, key, sealed.slice(NONCE)));
  };
  return {
    closeBytes,
    openBytes,
    close: (value) => closeBytes(new TextEncoder().encode(JSON.stringify(value))),
    open: async <T>(sealed: Sealed) => JSON.parse(new TextDecoder().decode(await openBytes(sealed))) as T,
  };
}
