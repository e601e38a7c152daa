import fc from 'fast-check';
import { spread } from './spread';

test('labels keep their order, do not cover each other, stay in the room, and stay where they are when nothing is near', () => {
  const label = fc.record({
    at: fc.integer({ min: 0, max: 1_200 }),
    size: fc.integer({ min: 10, max: 120 }),
  });
  fc.assert(
    fc.property(fc.array(label, { maxLength: 9 }), (labels) => {
      const places = spread(labels, 1_200, 4);
      const order = labels.map((_, k) => k).sort((a, b) => (labels[a]?.at ?? 0) - (labels[b]?.at ?? 0));
      order.forEach((k, n) => {
        const size = labels[k]?.size ?? 0;
        const left = (places[k] as number) - size / 2;
        const before = order[n - 1];
        if (before !== undefined)
          expect(left).toBeGreaterThanOrEqual(
            (places[before] as number) + (labels[before]?.size ?? 0) / 2 + 4 - 1e-6,
          );
        expect(left).toBeGreaterThanOrEqual(-1e-6);
        expect(left + size).toBeLessThanOrEqual(1_200 + 1e-6);
      });
    }),
  );
  expect(
    spread(
      [
        { at: 100, size: 40 },
        { at: 300, size: 40 },
      ],
      400,
    ),
  ).toEqual([100, 300]);
  expect(
    spread(
      [
        { at: 100, size: 60 },
        { at: 120, size: 60 },
      ],
      400,
    ),
  ).toEqual([100, 164]);
});
