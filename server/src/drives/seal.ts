import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';

const CIPHER = 'aes-256-gcm';
export const KEY_BYTES = 32;
/** NIST SP 800-38D, section 5.2.1.1 and 5.2.1.2: what is recommended. */
const IV_BYTES = 12;
const TAG_BYTES = 16;

/**
 * Keeps secrets that the server has to say again, such as passwords of drives, so that a copy of the database alone tells none of them.
 * AES-256 in Galois/Counter Mode (NIST SP 800-38D).
 */
export class Seal {
  constructor(private readonly key: Buffer) {
    if (key.length !== KEY_BYTES) throw new Error(`A key has ${KEY_BYTES} bytes.`);
  }

  /** @param about what the secret is for: sealed for one thing, it opens for no other */
  close(secret: string, about: string): Buffer {
    const iv = randomBytes(IV_BYTES);
    const cipher = createCipheriv(CIPHER, this.key, iv).setAAD(Buffer.from(about));
    return Buffer.concat([iv, cipher.update(secret, 'utf8'), cipher.final(), cipher.getAuthTag()]);
  }

  /** @returns `null` where it was sealed with another key, for something else, or has been changed */
  open(sealed: Buffer, about: string): string | null {
    const tagAt = sealed.length - TAG_BYTES;
    try {
      const cipher = createDecipheriv(CIPHER, this.key, sealed.subarray(0, IV_BYTES), { authTagLength: TAG_BYTES });
      cipher.setAAD(Buffer.from(about)).setAuthTag(sealed.subarray(tagAt));
      return cipher.update(sealed.subarray(IV_BYTES, tagAt), undefined, 'utf8') + cipher.final('utf8');
    } catch {
      return null;
    }
  }
}
