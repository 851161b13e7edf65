/** What makes programs that calculate take a text for a formula. */
const LOOKS_LIKE_FORMULA = /^[=+\-@\t\r]/;

/**
 * Writes a table as comma-separated values (RFC 4180), in UTF-8 with the mark at its beginning by which common spreadsheet programs
 * know that. A text that would be taken for a formula gets an apostrophe before it (OWASP, "CSV Injection").
 * @param rows from the first to the last; `null` is an empty field
 */
export function writeCsv(rows: readonly (readonly (string | number | null)[])[]): string {
  const lines = rows.map((row) => row.map(fieldOf).join(','));
  return `\uFEFF${lines.join('\r\n')}\r\n`;
}

function fieldOf(value: string | number | null): string {
  if (typeof value !== 'string') return value === null ? '' : String(value);
  const text = LOOKS_LIKE_FORMULA.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
