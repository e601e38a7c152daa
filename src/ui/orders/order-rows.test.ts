import { MAIN } from '@/core/account';
import { everything, isLive } from '@/core/orders';
import { at } from '@/core/units';
import { advance, apply, createEngine } from '../../session/engine.ts';
import { runInput } from '../../session/scripts.ts';
import { simMarket } from '../../session/sim-market.ts';
import { px } from '../format';
import { orderSentence } from '../trade/order-sentence';
import { editable, orderRows } from './order-rows';

test('orders as rows: what works, filled and ended; each by hand comes back as the sentence that would send it', () => {
  const e = createEngine(
    simMarket({ ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null }),
  );
  advance(e, at(9, 40));
  const run = (text: string, symbol = 'VULPN') => {
    const { result } = apply(e, runInput(text, symbol));
    if (result.problem !== null) throw new Error(`${text}: ${result.problem}`);
  };
  const rows = () => orderRows(everything(e.state.broker).orders, [], {}, { [MAIN]: 'Practice margin' });
  run('buy 200 at ask + 5c\n stop 30c\n target 60c for half');
  run('buy 100 at bid - 40c gtc post only');
  run('buy 50 above ask + 60c limit 0.5% beyond');
  run('cancel last');
  expect(rows().map((r) => [r.stand, r.what, r.side, r.qty, r.life])).toEqual([
    ['ended', 'entry', 'buy', 50, 'day'],
    ['working', 'entry', 'buy', 100, 'gtc'],
    ['working', 'target', 'sell', 100, 'gtc'],
    ['working', 'stop', 'sell', 200, 'gtc'],
    ['filled', 'entry', 'buy', 200, 'day'],
  ]);
  expect(rows().map(editable)).toEqual([false, true, true, true, false]);
  // What filled says at what, what ended says why.
  const [canceled, , , , entry] = rows();
  expect([canceled?.status, entry?.status]).toEqual(['Canceled by you', `Filled at ${px(entry?.average)}`]);
  expect(entry?.price).toBe(Math.round(entry?.average ?? 0));
  // What the table writes for a working order, sent as its replacement, leaves it as it is; another size is another size.
  const [resting] = everything(e.state.broker).orders.filter((o) => isLive(o) && o.role === 'entry');
  if (!resting) throw new Error('nothing rests');
  const before = rows();
  run(`replace order ${resting.id} with ${orderSentence(resting)}`);
  expect(rows().map(({ order: _, ...r }) => r)).toEqual(before.map(({ order: _, ...r }) => r));
  run(
    `replace order ${resting.id} with ${orderSentence(resting, { qty: 70, price: (resting.limit ?? 0) + 100 })}`,
  );
  expect(rows()[1]).toMatchObject({ qty: 70, price: (resting.limit ?? 0) + 100, life: 'gtc' });
  // Sent once more in the account that it stood in, whichever is in use.
  run(orderSentence(resting, { of: 'VULPN', account: 'Practice cash' }), 'ORBNT');
  expect(rows()[0]).toMatchObject({ stand: 'working', symbol: 'VULPN', qty: 100 });
  expect(rows()[0]?.account).not.toBe('Practice margin');
});
