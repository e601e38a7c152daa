// What an entry costs, risks and may bring, as its say-back tells it.
import { isOption, legsOf, multiplierOfSymbol, rootOf } from '../instruments/index.ts';
import { fairGreeks, outlookOf, YEAR_DAYS } from '../options/index.ts';
import { accountNow, allot, lossOfStops, needOf } from '../orders/index.ts';
import { type Money, money, type Price, roundToTick, signOf } from '../units/index.ts';
import { bothWays, costsOf, type Trading } from './costs.ts';
import { type Basis, type Resolved, rewardOf, rewardUnits } from './exits.ts';
import { accountOf, type Reading, type RunContext } from './moment.ts';

/** An entry of so many shares, with what its exits come to. `inQueue`: it would rest and add to the book. */
interface Entry {
  qty: number;
  resolved: Resolved | null;
  perShare: number | null;
  inQueue: boolean;
}

/** The numbers of an entry. */
export function factsOf(
  b: Basis,
  { qty, resolved, perShare, inQueue }: Entry,
  c: RunContext,
): NonNullable<Reading['facts']> {
  const each = multiplierOfSymbol(b.view.symbol);
  const entry = { shares: qty, price: b.from, rests: inQueue };
  const outs = outsOf(resolved, b, qty);
  const cost = money(b.from * qty * each);
  // A part without a stop risks nothing that is known; what a whole order risks is what the trade's R will be.
  const stops = resolved?.losses ?? [];
  const loss = stops.length > 0 ? lossOfStops(stops, qty) : perShare === null ? null : perShare * qty;
  const place = resolved?.plan.stops[0]?.place ?? null;
  const stop =
    place &&
    (place.kind === 'at'
      ? place.price
      : roundToTick(Math.max(1, b.from - signOf(b.side) * place.units), 'nearest', b.view.ticks));
  return {
    side: b.side,
    qty,
    price: b.from,
    stop,
    cost,
    risk: loss === null ? null : money(Math.round(loss * each)),
    units: loss === null ? null : (loss * each) / accountOf(c).rules.riskUnit,
    reward: resolved && rewardOf(resolved, b, qty),
    costs: bothWays(b.view.symbol, b.side, entry, [...outs.targets, ...outs.rest], c),
    targets: targetsOf(outs.targets, entry, b),
    power: powerOf(b, qty, c),
  };
}

/** What may come of an option or a vertical, for all of it. */
export function outlookFor(b: Basis, qty: number): Pick<NonNullable<Reading['facts']>, 'outlook'> {
  const { symbol } = b.view;
  const m = isOption(symbol) ? b.c.chain(rootOf(symbol)) : null;
  const sign = signOf(b.side);
  const o = m && outlookOf(symbol, sign, b.from, m);
  if (!m || !o) return {};
  const all = (perShare: number): Money => money(Math.round(perShare * qty * multiplierOfSymbol(symbol)));
  const theta = legsOf(symbol).reduce((a, l) => a + l.sign * fairGreeks(l.contract, m).theta, 0);
  return {
    outlook: {
      most: o.most === null ? null : all(o.most),
      least: o.least === null ? null : all(o.least),
      even: o.even,
      profit: o.profit,
      half: o.half,
      perDay: all((sign * theta) / YEAR_DAYS),
    },
  };
}

/** The targets of a plan as orders that rest, and one more for the shares that no target takes. */
function outsOf(resolved: Resolved | null, b: Basis, qty: number): { targets: Trading[]; rest: Trading[] } {
  const places = resolved?.plan.targets ?? [];
  const parts = allot(
    places.map((t) => t.part),
    qty,
  );
  const targets = places.map(({ place }, i) => {
    const gain = rewardUnits(place, b, resolved?.perShare ?? null);
    const price = roundToTick(Math.max(1, b.from + signOf(b.side) * gain), 'nearest', b.view.ticks);
    return { shares: parts[i] as number, price, rests: true };
  });
  const left = qty - targets.reduce((a, t) => a + t.shares, 0);
  return { targets, rest: left > 0 ? [{ shares: left, price: b.from, rests: false }] : [] };
}

/** Each target with its price and shares, and what it makes after its own order and its part of the entry's costs. */
function targetsOf(
  targets: readonly Trading[],
  entry: Trading,
  b: Basis,
): NonNullable<Reading['facts']>['targets'] {
  const { symbol } = b.view;
  const out = b.side === 'buy' ? 'sell' : 'buy';
  const paid = costsOf(symbol, b.side, entry, b.c);
  return targets.map(({ price, shares, rests }) => {
    const gain = signOf(b.side) * (price - b.from) * shares * multiplierOfSymbol(symbol);
    const costs = costsOf(symbol, out, { price, shares, rests }, b.c) + (paid * shares) / entry.shares;
    return { price: price as Price, shares, net: money(Math.round(gain - costs)) };
  });
}

function powerOf(b: Basis, qty: number, c: RunContext): { used: Money; left: Money } {
  const used = needOf(
    accountOf(c),
    { symbol: b.view.symbol, side: b.side, limit: b.from, stop: null },
    qty,
    null,
  );
  const have = accountNow(c.broker, c.account, (s) => c.view(s)?.last ?? null).buyingPower;
  return { used: money(Math.round(used)), left: money(Math.round(have - used)) };
}
