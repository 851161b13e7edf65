import type { Watch } from './watch';

/** What an offline page has within it: all that a student's page would ask a school for, but for its sound. */
export interface Carried {
  /** By what a device knows it, such as how far somebody came in it. */
  token: string;
  about: Watch;
  /** Bytes in base64, by where they would be at a school. */
  files: Record<string, CarriedFile>;
}

export interface CarriedFile {
  type: string;
  base64: string;
}

/** Where in the page it is, as JSON. */
export const CARRIED_ID = 'carried';
