import fc from 'fast-check';
import Papa from 'papaparse';
import { readWatchlist, type WatchRow, watchlistCsv } from './index.ts';

const cells = (text: string) => Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
const row: fc.Arbitrary<WatchRow> = fc.record({
  symbol: fc.string({ unit: fc.constantFrom(...'ABCDEFGHIJ'), minLength: 1, maxLength: 5 }),
  grade: fc.constantFrom('' as const, 'A' as const, 'B' as const, 'C' as const),
  note: fc.string({ maxLength: 30 }),
});

test('a watchlist comes back from its file as it was, whatever its notes hold', () => {
  fc.assert(
    fc.property(fc.uniqueArray(row, { selector: (r) => r.symbol, maxLength: 8 }), (rows) => {
      const text = watchlistCsv(rows);
      // No cell may start a formula in a spreadsheet.
      for (const line of cells(text)) for (const c of line) expect(/^[=+\-@\t\r]/.test(c)).toBe(false);
      const back = readWatchlist(cells(text));
      expect(back.bad).toEqual([]);
      // An apostrophe that the trader wrote before such a sign is taken for the guard.
      expect(back.rows).toEqual(rows.map((r) => ({ ...r, note: r.note.replace(/^'(?=[=+\-@\t\r])/, '') })));
    }),
  );
});

test('a bare column of symbols is read; what is no symbol is named with its line, doubles are kept once', () => {
  const read = readWatchlist(cells('vulpn\nQUOLS\n12.5\nVULPN\n\nNOSUC'));
  expect(read.rows.map((r) => r.symbol)).toEqual(['VULPN', 'QUOLS', 'NOSUC']);
  expect(read.bad).toEqual([{ line: 3, value: '12.5' }]);
});
