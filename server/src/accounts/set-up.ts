import { randomInt, timingSafeEqual } from 'node:crypto';

/** Letters and digits that nobody takes for one another. */
const ALPHABET = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 3;
const GROUP_LETTERS = 4;

/**
 * The code by which whoever runs the server shows that the school is theirs to set up: printed where the server was started,
 * and good for one teacher. 59 random bits.
 */
export class SetUpCode {
  private isSpent = false;

  private constructor(readonly code: string) {}

  static make(): SetUpCode {
    const letter = () => ALPHABET[randomInt(ALPHABET.length)];
    const group = () => Array.from({ length: GROUP_LETTERS }, letter).join('');
    return new SetUpCode(Array.from({ length: GROUPS }, group).join('-'));
  }

  /** Whether it is the code; it can be spent once. Spaces and capitals do not matter. */
  spend(given: string): boolean {
    const letters = (text: string) => Buffer.from(text.toLowerCase().replace(/[^a-z0-9]/g, ''));
    const [meant, said] = [letters(this.code), letters(given)];
    if (this.isSpent || said.length !== meant.length || !timingSafeEqual(said, meant)) return false;
    this.isSpent = true;
    return true;
  }

  /** Nobody came of it after all. */
  giveBack(): void {
    this.isSpent = false;
  }
}
