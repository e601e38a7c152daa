import { NO_COSTS } from '../src/core/account/index.ts';
import type { TradeRecord } from '../src/core/review/index.ts';
import { money } from '../src/core/units/index.ts';

/** A finished trade of review: money in dollars, everything else as given. */
export function tradeRecord(
  over: Partial<Omit<TradeRecord, 'net' | 'risk' | 'costs'>> & {
    net: number;
    risk?: number | null;
    costs?: number;
  },
): TradeRecord {
  const { net, risk = 60, costs = 0, ...rest } = over;
  const units = (x: number) => money(Math.round(x * 10_000));
  return {
    ref: 'a1.1',
    source: { kind: 'import', id: 1 },
    scenario: 'a day',
    day: 'day',
    account: 'Main',
    symbol: 'VULPN',
    direction: 'long',
    shares: 100,
    averageEntry: 100_000,
    averageExit: 100_000 + units(net) / 100,
    opened: { date: '2027-03-09', at: 34_200_000 },
    closed: { date: '2027-03-09', at: 34_800_000 },
    held: 600_000,
    gross: units(net + costs),
    costs: { ...NO_COSTS, commission: units(costs) },
    net: units(net),
    risk: risk === null ? null : units(risk),
    mfe: null,
    mae: null,
    sentence: null,
    plan: null,
    script: null,
    scan: null,
    float: null,
    executions: [],
    ...rest,
  };
}
