// What the exchange would most likely do with an order now: so that line two of a script is read after what line one would bring about.
import type { TradingStatus } from '../core/market/index.ts';
import {
  type Broker,
  type BrokerContext,
  type BrokerInput,
  orderOf,
  orderOfWire,
  type Refusal,
  stepBroker,
  wireOf,
} from '../core/orders/index.ts';
import { type AccountId, type Price, signOf } from '../core/units/index.ts';
import type { VenueCommand, VenueOrder, VenueReport } from '../core/venue/index.ts';

interface Guess {
  broker: Broker;
  refused: Refusal | null;
  /** Something of it depends on fills, which only the exchange decides. */
  fills: boolean;
  /** The exchange is asked for something, so that the quote may be another one after it. */
  sends: boolean;
}

const MOST_TURNS = 200;

/** The broker after an intent, at an exchange that acknowledges everything and fills what reaches the quote, whole, at the quote. */
export function guessStep(
  broker: Broker,
  input: BrokerInput,
  c: BrokerContext,
  status: (symbol: string) => TradingStatus,
): Guess {
  const out: Guess = { broker, refused: null, fills: false, sends: false };
  let next: BrokerInput | null = input;
  for (let turn = 0; next && turn < MOST_TURNS; turn++) {
    const [after, effects] = stepBroker(out.broker, next, c);
    out.broker = after;
    out.refused ??= effects.refused;
    out.sends ||= effects.venue.length > 0;
    const reports = broker.linked
      ? effects.venue.flatMap((command) => answer(command, after, c, status))
      : [];
    out.fills ||= reports.some((r) => r.kind === 'fill');
    next = reports.length > 0 ? { kind: 'reports', reports } : null;
  }
  return out;
}

function answer(
  command: VenueCommand,
  broker: Broker,
  c: BrokerContext,
  status: (symbol: string) => TradingStatus,
): VenueReport[] {
  const head = { account: command.account, id: command.id, symbol: command.symbol, at: c.now };
  const o = orderOf(broker, orderOfWire(command.id));
  const filled = (o && wireOf(o)?.filled) ?? 0;
  switch (command.kind) {
    case 'cancel':
      return [{ kind: 'out', ...head, cumQty: filled, why: 'canceled' }];
    case 'executions':
      return [{ kind: 'executions', ...head, of: [] }];
    case 'replace': {
      const { qty: whole, limit } = command;
      const replaced: VenueReport = { kind: 'replaced', ...head, cumQty: filled, qty: whole, limit };
      const qty = o ? whole - filled : 0;
      const fill =
        o && qty > 0
          ? fillOf({ ...command, ...o, id: command.id, qty, limit }, filled, c, status(command.symbol))
          : null;
      return fill ? [replaced, fill] : [replaced];
    }
    case 'new': {
      const fill = fillOf(command, 0, c, status(command.symbol));
      const over: VenueReport[] =
        fill === null && (command.life === 'ioc' || command.life === 'fok')
          ? [{ kind: 'out', ...head, cumQty: 0, why: 'nothing was there' }]
          : [];
      return [{ kind: 'new', ...head }, ...(fill ? [fill] : over)];
    }
  }
}

function fillOf(
  o: Pick<VenueOrder, 'id' | 'side' | 'limit' | 'qty' | 'route' | 'postOnly'> & {
    account: AccountId;
    symbol: string;
  },
  before: number,
  c: BrokerContext,
  status: TradingStatus,
): VenueReport | null {
  const quote = c.quote(o.symbol);
  const there: Price | null = o.side === 'buy' ? quote.ask : quote.bid;
  if (there === null || o.route === 'open' || o.route === 'close' || o.route === 'mid' || o.postOnly)
    return null;
  if (status === 'halted' || status === 'volatility pause') return null;
  if (o.limit !== null && signOf(o.side) * (o.limit - there) < 0) return null;
  return {
    kind: 'fill',
    account: o.account,
    cumQty: before + o.qty,
    id: o.id,
    symbol: o.symbol,
    at: c.now,
    price: there,
    qty: o.qty,
    liquidity: 'removed',
    venue: 'LIT',
    better: 0,
  };
}
