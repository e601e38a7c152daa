import fc from 'fast-check';
import { createMarket, practiceDay, saveMarket, stepMarket } from '../core/sim/index.ts';
import { createEngine } from './engine.ts';
import { firstMoment } from './first-moment.ts';
import { pack, unpack } from './pack.ts';
import { save } from './saving.ts';
import { simMarket } from './sim-market.ts';

const typed = fc.oneof(
  fc.float64Array({ maxLength: 20 }),
  fc.int32Array({ maxLength: 20 }),
  fc.uint8Array({ maxLength: 20 }),
  fc.uint16Array({ maxLength: 20 }),
);
const plain = fc.oneof(
  fc.string(),
  fc.double({ noDefaultInfinity: true, noNaN: true }),
  fc.boolean(),
  fc.constant(null),
);
const data = fc.letrec((tie) => ({
  value: fc.oneof(
    { depthSize: 'small' },
    plain,
    typed,
    fc.array(tie('value'), { maxLength: 5 }),
    fc.dictionary(
      fc.string().filter((k) => k !== '__proto__' && k !== '#'),
      tie('value'),
      { maxKeys: 5 },
    ),
  ),
})).value;

test('what is packed comes back bit for bit, its arrays with it', () => {
  fc.assert(
    fc.property(data, (value) => {
      const back = unpack(pack(value));
      // JSON knows no minus zero; the arrays do.
      expect(JSON.stringify(back)).toBe(JSON.stringify(value));
      expect(pack(back)).toEqual(pack(value));
    }),
  );
  expect(() => pack(new Float32Array(2))).toThrow('Float32Array');
});

test('a day made in pieces elsewhere, packed and sent, is the day that is made here', () => {
  const ref = { kind: 'practice', id: 'thin', seed: 12, size: 60 } as const;
  const work = firstMoment(ref);
  let step = work.next();
  while (!step.done) step = work.next();
  const sent = simMarket({ ref, own: null }, unpack(pack(step.value)));
  const here = simMarket({ ref, own: null });
  while (here.next(here.startAt));
  expect(save(createEngine(sent))).toEqual(save(createEngine(here)));
  const m = createMarket(practiceDay(ref.id, ref.seed, 0, null, ref.size));
  while (stepMarket(m, here.startAt) >= 0);
  expect((sent.save() as { market: unknown }).market).toEqual(saveMarket(m));
});
