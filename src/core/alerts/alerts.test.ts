import fc from 'fast-check';
import { sampleStock } from '../../../tests/sample.ts';
import { parseRule } from '../language/index.ts';
import { boardTrade, createBoard, factsOf, type NewsItem } from '../market/index.ts';
import type { AlertAsked } from '../reading/index.ts';
import { at, FULL_DAY, fromDollars, type Price } from '../units/index.ts';
import {
  type AlertScene,
  type Alerts,
  changeAlert,
  dueAlerts,
  lookAt,
  NO_ALERTS,
  onTrade,
  setAlert,
  watchesTrades,
} from './index.ts';

const SYMBOLS = ['VULPN', 'QUOLS', 'ORBNT'];
const ruleOf = (text: string) => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(`should read: ${text}`);
  return parsed.rule;
};

/** Three stocks with a prior close of 4.00 at these prices. */
function scene(when: number, dollars: number[], more: Partial<AlertScene> = {}): AlertScene {
  const board = createBoard(3);
  dollars.forEach((d, i) => {
    boardTrade(board, i, at(7), fromDollars(d), 100, FULL_DAY.close);
  });
  return {
    at: when,
    view: {
      board,
      facts: factsOf(SYMBOLS.map((symbol) => sampleStock({ symbol }))),
      now: when,
      newsAt: new Float64Array(3).fill(Number.NaN),
      newsKind: new Uint8Array(3),
    },
    stocks: Int32Array.of(0, 1, 2),
    symbolOf: (i) => SYMBOLS[i] ?? '',
    numberOf: (s) => SYMBOLS.indexOf(s),
    news: [],
    stops: [],
    ...more,
  };
}
const set = (a: Alerts, asked: AlertAsked, when = at(8), dollars = [4, 4, 4]) =>
  setAlert(a, asked, 'alert …', scene(when, dollars));
const upTo = (dollars: number): AlertAsked => ({
  symbol: 'VULPN',
  on: { kind: 'price', price: fromDollars(dollars), way: 'up' },
});

test('a price alert fires once, at the first trade at its price or beyond, from the side it was set on', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 300, max: 700 }), { maxLength: 40 }),
      fc.integer({ min: 300, max: 700 }),
      fc.boolean(),
      (cents, level, up) => {
        let a = set(NO_ALERTS, {
          symbol: 'VULPN',
          on: { kind: 'price', price: (level * 100) as Price, way: up ? 'up' : 'down' },
        });
        cents.forEach((c, k) => {
          a = onTrade(a, 'VULPN', c * 100, at(8) + k);
          a = onTrade(a, 'QUOLS', 10_000_000, at(8) + k);
        });
        const first = cents.findIndex((c) => (up ? c >= level : c <= level));
        expect(a.fired.map((f) => f.at)).toEqual(first < 0 ? [] : [at(8) + first]);
        expect(watchesTrades(a, 'VULPN')).toBe(first < 0);
      },
    ),
  );
});

test('while it is quiet an alert does not fire; armed again it waits from the side where the price stands; removed it never does', () => {
  const last = (dollars: number) => () => fromDollars(dollars);
  let a = set(NO_ALERTS, upTo(5));
  a = changeAlert(a, 1, { kind: 'quiet', until: at(8, 5) }, last(4));
  a = onTrade(a, 'VULPN', fromDollars(6), at(8, 4));
  expect(a.fired).toEqual([]);
  a = onTrade(a, 'VULPN', fromDollars(6), at(8, 6));
  a = changeAlert(a, 1, { kind: 'arm' }, last(6));
  a = onTrade(onTrade(a, 'VULPN', fromDollars(7), at(8, 7)), 'VULPN', fromDollars(4.9), at(8, 8));
  expect(a.fired.map((f) => [f.at, f.text])).toEqual([
    [at(8, 6), 'VULPN rose to 5.00'],
    [at(8, 8), 'VULPN fell to 5.00'],
  ]);
  a = changeAlert(changeAlert(a, 1, { kind: 'arm' }, last(4)), 1, { kind: 'remove' }, last(4));
  expect(onTrade(a, 'VULPN', fromDollars(6), at(8, 9)).fired).toHaveLength(2);
  expect(dueAlerts(a, [])).toBeNull();
});

test('a rule on one symbol fires when it turns true, not while it is true already', () => {
  const on = { kind: 'rule' as const, rule: ruleOf('change > 10%') };
  let a = set(
    set(NO_ALERTS, { symbol: 'VULPN', on }, at(8), [4, 4, 4]),
    { symbol: 'QUOLS', on },
    at(8),
    [4, 5, 4],
  );
  a = lookAt(a, scene(at(8, 0, 1), [4.5, 5, 4]));
  expect(a.fired.map((f) => [f.symbol, f.kind])).toEqual([['VULPN', 'rule']]);
  expect(a.fired[0]?.text).toContain('change +12.5%');
  a = lookAt(lookAt(a, scene(at(8, 0, 2), [4, 4, 4])), scene(at(8, 0, 3), [4.5, 5, 4]));
  expect(a.fired.map((f) => f.symbol)).toEqual(['VULPN', 'QUOLS']);
});

test('newcomers of a scan are told once, and one who wavers at the edge only after ten minutes', () => {
  let a = set(
    NO_ALERTS,
    { symbol: null, on: { kind: 'rule', rule: ruleOf('change > 10%') } },
    at(8),
    [5, 4, 4],
  );
  const prices = [4, 5, 4];
  for (let s = 1; s < 60; s++) a = lookAt(a, scene(at(8, 0, s), s % 2 ? prices : [4, 4, 4]));
  expect(a.fired.map((f) => [f.symbol, f.kind])).toEqual([['QUOLS', 'entrant']]);
  a = lookAt(lookAt(a, scene(at(8, 12), [4, 4, 4])), scene(at(8, 12, 1), prices));
  expect(a.fired.map((f) => f.symbol)).toEqual(['QUOLS', 'QUOLS']);
});

test('news and halts are told of the symbol asked for, or of any, once each', () => {
  const news: NewsItem[] = [
    { at: at(7, 30), symbol: 'VULPN', kind: 'contract', headline: 'old' },
    { at: at(8, 0, 5), symbol: 'VULPN', kind: 'offering', headline: 'new' },
    { at: at(8, 0, 6), symbol: 'QUOLS', kind: 'earnings', headline: 'other' },
  ];
  const stops = [
    { symbol: 'VULPN', at: at(8, 0, 7), stopped: true },
    { symbol: 'VULPN', at: at(8, 5), stopped: false },
  ];
  let a = set(set(NO_ALERTS, { symbol: 'VULPN', on: { kind: 'news' } }), {
    symbol: null,
    on: { kind: 'halt' },
  });
  for (let s = 1; s <= 400; s++) {
    const now = at(8) + s * 1_000;
    a = lookAt(a, scene(now, [4, 4, 4], { news, stops: stops.filter((x) => x.at <= now) }));
  }
  expect(a.fired.map((f) => [f.kind, f.symbol])).toEqual([
    ['news', 'VULPN'],
    ['halt', 'VULPN'],
    ['resume', 'VULPN'],
  ]);
});

test('setting another alert in the middle of a second hides nothing from those that are set', () => {
  const news: NewsItem[] = [{ at: at(8, 0, 5) + 300, symbol: 'VULPN', kind: 'offering', headline: 'new' }];
  const halted = [{ symbol: 'QUOLS', at: at(8, 0, 5) + 200, stopped: true }];
  let a = set(set(NO_ALERTS, { symbol: 'VULPN', on: { kind: 'news' } }), {
    symbol: null,
    on: { kind: 'halt' },
  });
  a = lookAt(a, scene(at(8, 0, 5), [4, 4, 4], { news }));
  a = setAlert(
    a,
    { symbol: 'QUOLS', on: { kind: 'news' } },
    'alert …',
    scene(at(8, 0, 5) + 500, [4, 4, 4], { news, stops: halted }),
  );
  a = lookAt(a, scene(at(8, 0, 6), [4, 4, 4], { news, stops: halted }));
  expect(a.fired.map((f) => f.kind)).toEqual(['news', 'halt']);
});
