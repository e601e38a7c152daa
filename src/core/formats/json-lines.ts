const asText = (v: unknown): string =>
  v === null || v === undefined ? '' : typeof v === 'object' ? JSON.stringify(v) : String(v);

/**
 * Lines of JSON, one object each, as rows of cells; the first row is the names in the first object.
 * @param most rows at most, the names included.
 * @throws Error that names the first line that is no object.
 */
export function rowsOfJsonLines(name: string, text: string, most: number): string[][] {
  const out: string[][] = [];
  let from = 0;
  for (let line = 1; from < text.length && out.length < most; line++) {
    const end = text.indexOf('\n', from);
    const part = text.slice(from, end < 0 ? text.length : end).trim();
    from = end < 0 ? text.length : end + 1;
    if (part === '') continue;
    let value: unknown;
    try {
      value = JSON.parse(part);
    } catch {
      value = null;
    }
    if (typeof value !== 'object' || value === null || Array.isArray(value))
      throw new Error(
        `Line ${line} of ${name} is no JSON object: each line is one row, such as {"date":"2027-03-09","time":"09:31","close":5.2,"volume":100}.`,
      );
    const row = value as Record<string, unknown>;
    if (out.length === 0) out.push(Object.keys(row));
    out.push((out[0] as string[]).map((n) => asText(row[n])));
  }
  return out.slice(0, most);
}
