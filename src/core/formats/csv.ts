/**
 * One CSV cell: quoted where needed, and never the start of a formula: a text cell that a
 * spreadsheet would run gets a leading apostrophe (CSV as in RFC 4180; the guard as OWASP advises).
 */
function cell(value: string | number | null): string {
  if (value === null) return '';
  if (typeof value === 'number') return String(value);
  const safe = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** Rows as CSV text with CRLF line ends (RFC 4180). */
export const csv = (lines: readonly (readonly (string | number | null)[])[]): string =>
  lines
    .map((l) => l.map(cell).join(','))
    .join('\r\n')
    .concat('\r\n');
