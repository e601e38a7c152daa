import fc from 'fast-check';
import { createIdTable, dropRow, putRow, rowOf } from './id-table.ts';

test('the id table knows what a plain map knows, through growth and removals', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 60 }), fc.constantFrom(1, 2 ** 31, 2 ** 33), fc.boolean()), { maxLength: 400 }), (steps) => {
      const table = createIdTable(8);
      const map = new Map<number, number>();
      steps.forEach(([n, far, add], row) => {
        const id = n * far;
        if (add && !map.has(id)) {
          putRow(table, id, row);
          map.set(id, row);
        } else if (!add) {
          dropRow(table, id);
          map.delete(id);
        }
      });
      expect(table.size).toBe(map.size);
      for (const far of [1, 2 ** 31, 2 ** 33]) for (let n = 1; n <= 60; n++) expect(rowOf(table, n * far)).toBe(map.get(n * far) ?? -1);
    }),
    { numRuns: 300 },
  );
});
