import filenamify from 'filenamify/browser';

/** Names of 255 bytes fit everywhere; letters have up to four. */
const MOST_UNITS = 60;

/** A name that any file system takes, made of a text. @param ending such as `.mp4` */
export function fileNameOf(text: string, ending: string): string {
  const named = filenamify(text, { replacement: ' ', maxLength: MOST_UNITS }).normalize('NFC');
  const whole = named
    .replace(/\p{Surrogate}$/u, '')
    .replace(/\s+/g, ' ')
    .trim();
  return (whole.replace(/^[. ]+|[. ]+$/g, '') || 'lesson') + ending;
}
