/** What can lie beside the page while the trail is edited. */
export const TRIM_PANELS = ['Pauses', 'Chapters', 'Captions', 'Sound', 'Versions', 'Takes'] as const;
export type TrimPanel = (typeof TRIM_PANELS)[number];
