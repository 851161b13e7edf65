import { expose } from 'comlink';

/** Works out what a file is called, away from the page: a large one takes a while. */
export const hashWorker = {
  /** The SHA-256 of a file's bytes (FIPS 180-4), in hexadecimal. */
  async sha256(file: Blob): Promise<string> {
    const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', await file.arrayBuffer()));
    return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  },
};

export type HashWorker = typeof hashWorker;
expose(hashWorker);
