const STEP = 1024;
const UNITS = ['B', 'kB', 'MB', 'GB', 'TB'] as const;

/** How much room something takes, with two or three figures that count. @param bytes 0 or more */
export function sizeText(bytes: number): string {
  let unit = 0;
  let size = bytes;
  while (size >= STEP - 0.5 && unit < UNITS.length - 1) {
    size /= STEP;
    unit++;
  }
  const digits = unit === 0 || size >= 10 ? 0 : 1;
  return `${size.toLocaleString(undefined, { maximumFractionDigits: digits })} ${UNITS[unit]}`;
}
