/** Passkeys and security keys: the browser's own questions (W3C Web Authentication), with what the server sends and wants as JSON. */

export interface KeyRequest {
  readonly publicKey: PublicKeyCredentialRequestOptionsJSON;
}
export interface KeyCreation {
  readonly publicKey: PublicKeyCredentialCreationOptionsJSON;
}

/** Can this browser do it at all? It does over HTTPS and on this machine itself only. */
export const canUseKeys = () =>
  typeof PublicKeyCredential !== "undefined" && "parseCreationOptionsFromJSON" in PublicKeyCredential;

/** What the browser says where somebody closes its question, or nothing fits, in words. */
function inWords(error: unknown): Error {
  if (error instanceof DOMException && error.name === "InvalidStateError")
    return new Error("This key is set up already.");
  if (error instanceof DOMException) return new Error("No key was used. Try again, or go on in another way.");
  return error instanceof Error ? error : new Error("No key was used.");
}

const asJson = (found: Credential | null): unknown => {
  if (!(found instanceof PublicKeyCredential)) throw new Error("No key was used.");
  return found.toJSON();
};

export async function askKey(request: KeyRequest): Promise<unknown> {
  try {
    const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(request.publicKey);
    return asJson(await navigator.credentials.get({ publicKey }));
  } catch (error) {
    throw inWords(error);
  }
}

export async function makeKey(creation: KeyCreation): Promise<unknown> {
  try {
    const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(creation.publicKey);
    return asJson(await navigator.credentials.create({ publicKey }));
  } catch (error) {
    throw inWords(error);
  }
}
