import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import Papa from 'papaparse';
import { costsFor, DEFAULT_FEES, MAIN, NO_COSTS } from '@/core/account';
import { executionsCsv, tradesCsv } from '@/core/formats';
import type { TradeReview } from '@/core/review';
import {
  at,
  fromDollars,
  money,
  type OrderId,
  onTick,
  parsePrice,
  price,
  roundToTick,
  sessionAt,
  type TradeId,
  tickSize,
} from '@/core/units';

// Source: SEC Rule 612 (17 CFR 242.612): no sub-penny prices at or above $1.00; $0.0001 below it.
test('tick sizes on both sides of one dollar', () => {
  expect([0.0001, 0.9999, 1, 1.01].map((d) => tickSize(fromDollars(d)))).toEqual([1, 1, 100, 100]);
  expect([1.005, 0.9999, 12.3401].map((d) => onTick(fromDollars(d)))).toEqual([false, true, false]);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 5_000_000 }), (units) => {
      const [down, up] = [roundToTick(units, 'down'), roundToTick(units, 'up')];
      expect(down <= units && units <= up && onTick(down) && onTick(up)).toBe(true);
      expect(up - down).toBeLessThanOrEqual(100);
    }),
  );
});

test('a typed price is read exactly, never through a binary fraction', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 99_999_999 }), (units) => {
      expect(parsePrice((units / 10_000).toFixed(4))).toBe(units);
    }),
  );
  expect(['', '-1', '1.23456', '1e3', '0', 'abc', '1,23'].map(parsePrice)).toEqual([
    null,
    null,
    null,
    null,
    null,
    null,
    null,
  ]);
});

// Common practice: 04:00–09:30 pre-market, 09:30–16:00 regular, 16:00–20:00 after hours.
test('sessions by the time of day', () => {
  expect(
    [at(3, 59), at(4), at(9, 29, 59), at(9, 30), at(15, 59, 59), at(16), at(20)].map((t) => sessionAt(t)),
  ).toEqual(['closed', 'pre-market', 'pre-market', 'regular', 'regular', 'after hours', 'closed']);
});

// By hand, from the table: half a cent a share, at least $1, at most 1 % of the value.
test('commission by hand', () => {
  const commission = (shares: number, price: number) =>
    costsFor(DEFAULT_FEES, { side: 'buy', shares, notional: shares * price, added: 0 }).commission;
  expect([commission(100, 70_000), commission(1_000, 70_000), commission(10, 20_000)]).toEqual([
    10_000, 50_000, 2_000,
  ]);
});

// Source: W3C WCAG 2.2, contrast ratio (1.4.3 asks 4.5:1 for text).
test('text colours of both themes reach 4.5:1 on their three grounds', () => {
  const css = readFileSync('src/app/globals.css', 'utf8');
  for (const theme of ['night', 'dawn']) {
    const block = css.split(`[data-theme="${theme}"]`)[1]?.split('}')[0] ?? '';
    const colour = Object.fromEntries(
      [...block.matchAll(/--(\w+):\s*(#\w{6})/g)].map((m) => [m[1], m[2] as string]),
    );
    for (const ink of ['text', 'quiet', 'up', 'down', 'focus', 'condition']) {
      for (const ground of ['ground', 'panel', 'raised'])
        expect([theme, ink, ground, contrast(colour[ink] ?? '', colour[ground] ?? '') >= 4.5]).toEqual([
          theme,
          ink,
          ground,
          true,
        ]);
    }
  }
});

function contrast(a: string, b: string): number {
  const [x, y] = [luminance(a), luminance(b)].sort((m, n) => n - m) as [number, number];
  return (x + 0.05) / (y + 0.05);
}
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const c = Number.parseInt(hex.slice(i, i + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

// Source: RFC 4180, read by the package papaparse; the formula guard as OWASP advises.
test('exported CSV is read back cell by cell by another reader, and no cell starts a formula', () => {
  const review: TradeReview = {
    id: 3,
    symbol: 'VULPN',
    direction: 'long',
    shares: 200,
    averageEntry: 69_400,
    averageExit: 72_400,
    openedAt: at(9, 10),
    closedAt: at(9, 41, 7),
    gross: 600_000,
    costs: { ...NO_COSTS, commission: money(30_000) },
    net: 570_000,
    r: 0.95,
    mfe: 700_000,
    mae: -90_000,
    sentence: '=buy "1R", at ask\n  stop 30c',
    fills: [
      {
        id: 1,
        account: MAIN,
        orderId: 1 as OrderId,
        tradeId: 3 as TradeId,
        symbol: 'VULPN',
        side: 'buy',
        role: 'entry',
        at: at(9, 10),
        price: price(69_400),
        qty: 200,
        liquidity: 'removed',
        venue: 'LIT',
        better: 0,
        costs: costsFor(DEFAULT_FEES, { side: 'buy', shares: 200, notional: 200 * 69_400, added: 0 }),
      },
    ],
  };
  const rows = Papa.parse<string[]>(tradesCsv(['2027-03-09'], [review]), { skipEmptyLines: true }).data;
  const row = Object.fromEntries((rows[0] ?? []).map((h, i) => [h, rows[1]?.[i]]));
  expect(row).toMatchObject({
    symbol: 'VULPN',
    'average entry': '6.94',
    net: '57',
    R: '0.95',
    closed: '09:41:07.000',
    script: '\'=buy "1R", at ask\n  stop 30c',
  });
  expect(
    Papa.parse<string[]>(executionsCsv(['2027-03-09'], [review]), { skipEmptyLines: true }).data[1]?.slice(
      5,
      10,
    ),
  ).toEqual(['VULPN', 'buy', 'entry', '200', '6.94']);
});
