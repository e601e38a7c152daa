// What a sentence must not mean: at a moment of a trading day, the meaning that is right, the question that must be asked, or what is offered instead.
import { morning } from '../../tests/morning.ts';
import { liveOrders } from '../core/orders/index.ts';
import { formatPrice } from '../core/units/index.ts';
import { advance, apply, type Engine } from './engine.ts';
import { peek } from './peek.ts';

const { early, late } = morning();

/** A session at a moment, with what is held then. */
const MOMENTS = {
  early: [early, null],
  flat: [late, null],
  long: [late, 'buy 400 at 8c through\n  stop 40c\n  target 2R'],
  short: [late, 'short 100 at 8c through\n  stop 40c'],
  call: [late, 'buy 2 of 45 days at the money call at ask'],
} as const;
type Moment = keyof typeof MOMENTS;
const begun = (m: Moment): Engine => {
  const [from, text] = MOMENTS[m];
  const e = from();
  if (text) expect(apply(e, { kind: 'run', text, focus: 'VULPN' }).result.problem).toBeNull();
  return e;
};

/** `<0.97>` is that part of the bid. */
const filled = (e: Engine, text: string): string =>
  text.replace(/<([\d.]+)>/g, (_, part) =>
    formatPrice(Math.round(((e.market.quote('VULPN')?.bid as number) * Number(part)) / 100) * 100),
  );

type Row = readonly [Moment, sentence: string, comes: 'does' | 'asks' | 'offers', what: string];
const TABLE: readonly Row[] = [
  // --- blocks
  ['long', 'when time >= 15:50:\n  cancel everything\n  flatten', 'does', 'when time >= 15:50:'],
  ['long', 'when time >= 15:50: cancel entries, flatten', 'offers', 'cancel entries\n  flatten'],
  ['long', 'when gain >= 1R: sell half at bid, move stop to <0.98>', 'offers', 'at bid\n  move stop'],
  ['long', 'when last > <1.05>, sell half at bid', 'offers', ': sell half'],
  ['long', 'sell all at 15:50', 'does', 'when time >= 15:50: sell all'],
  // --- a close that is meant as a stop
  ['long', 'sell all at <0.97>', 'asks', 'sell all below <0.97>'],
  ['long', 'sell all <0.97>', 'offers', 'sell all at <0.97>'],
  ['long', 'sell 400 at vwap', 'asks', 'below vwap'],
  ['long', 'sell 100 stop <0.97>', 'offers', 'below <0.97>'],
  ['long', 'sell all at stop <0.97>', 'offers', 'below <0.97>'],
  ['long', 'sell all if below <0.97>', 'offers', 'sell all below'],
  ['short', 'cover all at day high', 'asks', 'above day high'],
  ['long', 'sell half at 1R', 'offers', 'when gain >= 1R'],
  ['long', 'move targets to <0.97>', 'asks', 'move stop of VULPN to <0.97>'],
  ['long', 'move order 3 to <0.97>', 'asks', 'move stop of VULPN to <0.97>'],
  ['long', 'move order 3 to bid - 10c', 'does', 'move order 3'],
  ['long', 'move target to <1.05>', 'offers', 'move targets to <1.05>'],
  ['long', 'tighten stop 5c', 'offers', 'move stop by 5c'],
  ['long', 'sell all if it breaks <0.97>', 'offers', 'sell all below <0.97>\n\nsell all above'],
  ['flat', 'buy 100 on break of <1.05>', 'offers', 'buy 100 above <1.05>\n\nbuy 100 below'],
  ['flat', 'buy 100 above <1.02> stop limit <1.03>', 'offers', 'above <1.02> limit <1.03>'],
  ['long', 'when up 1R move stop to breakeven', 'offers', 'when gain >= 1R: move stop'],
  ['long', 'sell half at bid', 'does', 'sell 200 of VULPN at <1>'],
  ['long', 'sell third at bid', 'does', 'sell 133 of VULPN at <1>'],
  ['long', 'sell 1/3 at bid', 'does', 'sell 133 of VULPN at <1>'],
  ['long', 'sell quarter at bid', 'does', 'sell 100 of VULPN at <1>'],
  ['long', 'sell 12.5% at bid', 'does', 'sell 50 of VULPN at <1>'],
  // --- dollars away, or a price
  ['flat', 'buy 100 at ask\n  stop $<0.97>', 'offers', 'stop at <0.97>'],
  ['flat', 'buy 100 at ask\n  stop <0.97>', 'offers', '<0.97> away'],
  ['long', 'stop <0.97>', 'offers', 'attach\n  stop at <0.97>'],
  ['long', 'move stop to $<0.97>', 'does', 'move stop of VULPN to <0.97>'],
  ['flat', 'buy 100 at ask\n  stop 30c\n  breakeven after $40', 'offers', '$40 in all'],
  // --- sides and ways
  ['long', 'short 400 at bid', 'offers', 'close all of VULPN'],
  ['short', 'sell all at bid', 'offers', 'cover all'],
  ['flat', 'buy 100 above vwap', 'offers', 'buy 100 at vwap'],
  ['flat', 'buy 100 stop <1.05>', 'offers', 'above <1.05>'],
  ['long', 'move stop down 10c', 'asks', ''],
  ['short', 'move stop up 5c', 'asks', ''],
  ['long', 'move stop up 10c', 'does', 'move stop of VULPN'],
  // --- numbers
  ['flat', 'buy 1.000 at ask', 'offers', 'buy 1000 at ask'],
  ['flat', 'buy risk 60 at ask\n  stop 30c', 'offers', 'risk $60'],
  ['flat', 'buy 100 orbnt at ask', 'offers', 'buy 100 ORBNT at ask'],
  ['flat', 'buy 100 ORBNT at ask', 'does', 'buy 100 of ORBNT at'],
  ['flat', 'buy 100 at ask for 10 minutes', 'does', 'for 10 minutes'],
  ['early', 'buy 100 at ask for 10 minutes', 'offers', 'for 10 minutes extended'],
  ['flat', 'buy 100 above pm high', 'offers', 'premarket high'],
  // --- what would sleep, and auctions
  ['early', 'buy 100 at ask', 'asks', 'extended'],
  ['early', 'buy 100 at open', 'offers', 'at the open'],
  ['flat', 'buy 100 at close', 'offers', 'at prior close'],
  ['early', 'when time >= 9:30: buy 100 at ask', 'does', 'when time >= 09:30'],
  // --- everything, or this symbol
  ['long', 'cancel all', 'offers', 'cancel symbol'],
  ['long', 'flatten all', 'offers', 'flatten'],
  ['long', 'exit', 'offers', 'flatten'],
  ['long', 'cancel stop', 'asks', ''],
  // --- options
  ['call', 'flatten', 'does', 'flatten of VULPN'],
  ['call', 'sell 1 of 30 days 8 call at bid', 'offers', 'short 1 of 30 days 8 call'],
  ['call', 'when gain >= 50%: sell half of 30 days 8 call at bid', 'offers', ''],
  ['call', 'sell 1 vertical of 10 days 30 delta 1 wide put at mid credit', 'offers', 'short 1 vertical'],
  ['call', 'buy 1 call at ask', 'offers', '30 days at the money call'],
];

test.each(TABLE)('%s: %j %s %j', (moment, sentence, comes, what) => {
  const e = begun(moment);
  const text = filled(e, sentence);
  const { lines, problem, fixes } = peek(e, text, 'VULPN');
  const asks = lines.flatMap((l) => l.asks);
  const instead = asks.flatMap((q) => ('instead' in q ? q.instead : []));
  expect(problem !== null ? 'offers' : asks.length > 0 ? 'asks' : 'does').toBe(comes);
  const said = { does: lines.map((l) => l.sayBack), asks: instead, offers: fixes }[comes];
  if (what === '') expect(said).toEqual([]);
  else expect(said.join('\n\n')).toContain(filled(e, what));
  // Nothing that has to be asked is done without a yes.
  const before = JSON.stringify(e.state.broker);
  if (comes === 'does') return;
  expect(apply(e, { kind: 'run', text, focus: 'VULPN' }).result.ok).toBe(false);
  expect(JSON.stringify(e.state.broker)).toBe(before);
});

test('what is staged last is what “replace last” changes; nothing is sent by it', () => {
  const e = begun('flat');
  for (const text of ['stage buy 100 at bid', 'replace last with buy 300 at bid - 5c'])
    expect(apply(e, { kind: 'run', text, focus: 'VULPN' }).result).toMatchObject({ ok: true });
  expect(e.state.desk.staged.map((x) => x.statement)).toMatchObject([{ size: { shares: 300 } }]);
  expect(liveOrders(e.state.broker)).toEqual([]);
});

test('an order for so many seconds ends by itself, counted from when it is sent', () => {
  const e = begun('flat');
  expect(apply(e, { kind: 'run', text: 'buy 100 at bid - 50c for 20s', focus: 'VULPN' }).result.ok).toBe(
    true,
  );
  const working = () => liveOrders(e.state.broker).length;
  advance(e, e.market.now() + 19_000);
  expect(working()).toBe(1);
  advance(e, e.market.now() + 3_000);
  expect(working()).toBe(0);
});
