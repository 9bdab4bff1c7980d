import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes } from 'node:crypto';

/** The key that seals secrets at rest, from AUK_SECRET. */
function secret(): Buffer {
  const text = process.env.AUK_SECRET;
  if (!text || text.length < 16)
    throw new Error(
      'AUK_SECRET is not set, so that keys of channels and carriers cannot be kept. Start Auk with npm start.',
    );
  return createHash('sha256').update(text).digest();
}

/** Seals a text (AES-256-GCM, a fresh nonce each time). */
export function seal(text: string): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', secret(), nonce);
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
}

/** A mark of a text that nobody without the secret can make (HMAC-SHA-256, its first 144 bits in 24 letters and digits). */
export function markOf(text: string): string {
  return createHmac('sha256', secret()).update(text).digest('base64url').slice(0, 24);
}

/** Opens a sealed text; throws when it was changed or sealed with another secret. */
export function unseal(sealed: string): string {
  const bytes = Buffer.from(sealed, 'base64');
  const cipher = createDecipheriv('aes-256-gcm', secret(), bytes.subarray(0, 12));
  cipher.setAuthTag(bytes.subarray(12, 28));
  return Buffer.concat([cipher.update(bytes.subarray(28)), cipher.final()]).toString('utf8');
}
