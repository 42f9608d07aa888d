// The key of this installation: made here, it cannot be taken out of this browser. Its public half is
// given to the server when the device is paired; signatures given here carry its own.
import { local } from './local'

const CURVE = { name: 'ECDSA', namedCurve: 'P-256' }
const OWN = 'own'

async function ownKey(): Promise<CryptoKeyPair> {
  const kept = await local.keys.get(OWN)
  if (kept) return kept.pair
  const pair = await crypto.subtle.generateKey(CURVE, false, ['sign', 'verify'])
  // Another tab may have been quicker: the first one stays.
  await local.keys.add({ id: OWN, pair }).catch(() => undefined)
  return (await local.keys.get(OWN))?.pair ?? pair
}

const base64 = (bytes: ArrayBuffer) => btoa(String.fromCharCode(...new Uint8Array(bytes)))

/** The public half, an uncompressed point in base64. */
export async function publicKey(): Promise<string> {
  return base64(await crypto.subtle.exportKey('raw', (await ownKey()).publicKey))
}

/** Under which id the server paired this installation last. */
export async function paired(device: string): Promise<void> {
  await ownKey()
  await local.keys.update(OWN, { device })
}

/** What a signature says of the device it is given on; nothing where it was never paired. */
export async function prove(text: string): Promise<{ device: string; proof: string } | object> {
  const kept = await local.keys.get(OWN)
  if (!kept?.device) return {}
  const made = await crypto.subtle.sign(
    { name: 'ECDSA', hash: 'SHA-256' },
    kept.pair.privateKey,
    new TextEncoder().encode(text),
  )
  return { device: kept.device, proof: base64(made) }
}
