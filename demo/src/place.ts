/** The demo's own files, as seen from its sources and from what is built of them. */
export const DEMO_FOLDER = new URL('../../demo/', import.meta.url);
