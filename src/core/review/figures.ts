// What trades come to. Results in R are of those trades of which it is known what was risked; how many had none is said.
import { addTo, type DaySum, dayInterval, type Interval, proportionInterval } from '../statistics/index.ts';
import type { Ledger } from './ledger.ts';

/** A mean, and its 95 % interval; null where there are too few days to tell. */
export interface Estimate {
  value: number;
  interval: Interval | null;
}

/** The deepest fall of a running sum from its best: how deep, over how many trades and days with trades, between which trades (places in the ledger). */
export interface Fall {
  depth: number;
  trades: number;
  days: number;
  from: number;
  to: number;
}

/** Figures of some trades. Money in 1/10,000 dollar, times in ms. NaN where there is nothing to divide by. */
export interface Figures {
  trades: number;
  /** Days on which they ended. */
  days: number;
  gross: number;
  costs: number;
  net: number;
  /** Costs as a share of what was made before them; null where nothing was. */
  costShare: number | null;
  /** In R: how many trades say theirs, and their sum. */
  withRisk: number;
  r: number;
  /** Mean R and mean money a trade. */
  expectancy: Estimate;
  money: Estimate;
  won: number;
  lost: number;
  winRate: Estimate;
  /** Mean of winners and of losers (as a loss, below zero), in money and in R. */
  win: { money: number; r: number };
  loss: { money: number; r: number };
  /** Mean win over mean loss, by money. */
  payoff: number | null;
  /** What winners made over what losers lost; null without a loser. */
  profitFactor: number | null;
  drawdown: { money: Fall; r: Fall };
  /** Most winners and most losers in a row. */
  streaks: { won: number; lost: number };
  /** Mean time in a trade, of winners and of losers as well. */
  held: { all: number; won: number; lost: number };
}

/** Figures of the trades at some places of a ledger, which are in the order in which they ended. */
export function figuresOf(l: Ledger, places: Int32Array): Figures {
  const sums = newSums();
  const money: DaySum[] = [];
  const inR: DaySum[] = [];
  let last = -1;
  for (const i of places) {
    const day = l.day[i] as number;
    if (day !== last) {
      money.push({ sum: 0, count: 0 });
      inR.push({ sum: 0, count: 0 });
      last = day;
    }
    const [net, r] = [l.net[i] as number, l.r[i] as number];
    addTo(money[money.length - 1] as DaySum, net);
    if (!Number.isNaN(r)) addTo(inR[inR.length - 1] as DaySum, r);
    book(sums, net, r, l.held[i] as number);
    sums.gross += l.gross[i] as number;
    sums.costs += l.costs[i] as number;
  }
  const n = places.length;
  const { won, lost } = sums;
  const win = { money: won.net / won.count, r: won.r / won.withR };
  const loss = { money: lost.net / lost.count, r: lost.r / lost.withR };
  return {
    trades: n,
    days: money.length,
    gross: sums.gross,
    costs: sums.costs,
    net: won.net + lost.net,
    costShare: sums.gross > 0 ? sums.costs / sums.gross : null,
    withRisk: sums.withR,
    r: sums.r,
    expectancy: { value: sums.r / sums.withR, interval: dayInterval(inR) },
    money: { value: (won.net + lost.net) / n, interval: dayInterval(money) },
    won: won.count,
    lost: lost.count,
    winRate: { value: won.count / n, interval: proportionInterval(won.count, n) },
    win,
    loss,
    payoff: lost.count === 0 || won.count === 0 ? null : win.money / -loss.money,
    profitFactor: lost.net === 0 ? null : won.net / -lost.net,
    drawdown: { money: fallOf(places, l.net, l.day), r: fallOf(places, l.r, l.day) },
    streaks: streaksOf(places, l.net),
    held: {
      all: (won.held + lost.held + sums.evenHeld) / n,
      won: won.held / won.count,
      lost: lost.held / lost.count,
    },
  };
}

const newSums = () => ({
  gross: 0,
  costs: 0,
  r: 0,
  withR: 0,
  evenHeld: 0,
  won: { count: 0, net: 0, r: 0, withR: 0, held: 0 },
  lost: { count: 0, net: 0, r: 0, withR: 0, held: 0 },
});

/** A trade that makes nothing has neither won nor lost. */
function book(s: ReturnType<typeof newSums>, net: number, r: number, held: number): void {
  const known = !Number.isNaN(r);
  if (known) {
    s.r += r;
    s.withR++;
  }
  if (net === 0) {
    s.evenHeld += held;
    return;
  }
  const side = net > 0 ? s.won : s.lost;
  side.count++;
  side.net += net;
  side.held += held;
  if (known) {
    side.r += r;
    side.withR++;
  }
}

function fallOf(places: Int32Array, values: Float64Array, day: Int32Array): Fall {
  let [sum, best, since, sinceTrades] = [0, 0, -1, 0];
  const worst: Fall = { depth: 0, trades: 0, days: 0, from: -1, to: -1 };
  for (const i of places) {
    const x = values[i] as number;
    if (Number.isNaN(x)) continue;
    sum += x;
    sinceTrades++;
    if (sum >= best) [best, since, sinceTrades] = [sum, i, 0];
    else if (best - sum > worst.depth)
      Object.assign(worst, { depth: best - sum, trades: sinceTrades, from: since, to: i });
  }
  if (worst.to >= 0)
    worst.days =
      1 + (day[worst.to] as number) - (day[worst.from < 0 ? (places[0] as number) : worst.from] as number);
  return worst;
}

function streaksOf(places: Int32Array, net: Float64Array): { won: number; lost: number } {
  const most = { won: 0, lost: 0 };
  let [won, lost] = [0, 0];
  for (const i of places) {
    const x = net[i] as number;
    [won, lost] = x > 0 ? [won + 1, 0] : x < 0 ? [0, lost + 1] : [0, 0];
    most.won = Math.max(most.won, won);
    most.lost = Math.max(most.lost, lost);
  }
  return most;
}
