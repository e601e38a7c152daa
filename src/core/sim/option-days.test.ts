import { freeMoney } from '../../../tests/model/free-money.ts';
import { at, type Price } from '../units/index.ts';
import { createMarket, practiceDay, quoteOf, stepMarket } from './index.ts';

// Exhaustive over strikes and expiries; the moments are drawn over the session, those of a company in play among them.
test.each(['fresh-headlines', 'crowded-open', 'wild-index'])(
  'no free money in the chains of %s at any of its moments: open, rush and close',
  (id) => {
    const m = createMarket(practiceDay(id, 11, 0, null, 90));
    const listed = m.scenario.symbols.filter((p) => p.instrument.options !== null).slice(0, 12);
    let best = Number.NEGATIVE_INFINITY;
    let looked = 0;
    for (let k = 0; k < 14; k++) {
      const ms = k === 13 ? at(15, 59, 59) : at(9, 30) + Math.floor(((k * k) / 169) * 6.4 * 3_600_000) + 1;
      while (stepMarket(m, ms) >= 0);
      const p = listed[k % listed.length];
      for (const { instrument: listing } of [listed[0], p, listed[(k + 5) % listed.length]].flatMap(
        (x) => x ?? [],
      )) {
        const { bid, ask } = quoteOf(m, listing.symbol);
        if (bid === null || ask === null) continue;
        looked++;
        best = Math.max(best, freeMoney({ listing, date: m.scenario.date, ms, bid: bid as Price, ask }));
      }
    }
    expect(looked).toBeGreaterThan(30);
    expect(best).toBeLessThan(1e-6);
  },
);
