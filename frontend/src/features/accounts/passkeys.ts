// Passkeys: what a device proves in place of a password (Web Authentication, W3C).

import {
  browserSupportsWebAuthn,
  startAuthentication,
  startRegistration,
  WebAuthnError,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import { auth } from '@/api/auth';
import { Problem } from '@/api/client';

const AN_ADDRESS_OF_NUMBERS = /^[\d.]+$|:/;

/** Whether this browser has passkeys for this address: they belong to a name, never to an address of numbers. */
export const hasPasskeys = () =>
  browserSupportsWebAuthn() && !AN_ADDRESS_OF_NUMBERS.test(globalThis.location.hostname);

/** What the device could not do, in words. */
function inWords(error: unknown): never {
  if (error instanceof WebAuthnError && error.code === 'ERROR_AUTHENTICATOR_PREVIOUSLY_REGISTERED')
    throw new Problem(0, 'passkey', 'This device has a passkey for your account already.');
  if (error instanceof WebAuthnError || error instanceof DOMException)
    throw new Problem(0, 'passkey', 'The device gave no passkey. Try again, or go another way.');
  throw error;
}

/** Make a passkey on this device and keep it with one's account. */
export async function makePasskey(name: string) {
  const asked = await auth<{ creation_options: { publicKey: PublicKeyCredentialCreationOptionsJSON } }>(
    'GET',
    '/account/authenticators/webauthn?passwordless',
  );
  const { publicKey } = asked.data.creation_options;
  const credential = await startRegistration({ optionsJSON: publicKey }).catch(inWords);
  return auth('POST', '/account/authenticators/webauthn', { name, credential, passwordless: true });
}

/** Prove who one is with a passkey: to come in, or as the second step. */
export async function provePasskey(way: 'login' | 'authenticate') {
  const path = `/auth/webauthn/${way}`;
  const asked = await auth<{ request_options: { publicKey: PublicKeyCredentialRequestOptionsJSON } }>(
    'GET',
    path,
  );
  const { publicKey } = asked.data.request_options;
  const credential = await startAuthentication({ optionsJSON: publicKey }).catch(inWords);
  return auth('POST', path, { credential });
}
