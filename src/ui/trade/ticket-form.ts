// The ticket's sentence as the fields of a form, and back: two views of one sentence.

import { isOption } from '@/core/instruments';
import { parseScript, printTree, type TreeOf } from '@/core/language';
import type { TicketPart } from '@/store/ticket-parts';

export type Verb = 'buy' | 'short' | 'sell' | 'cover';
export interface TicketFields {
  verb: Verb;
  /** '' for whatever is in focus. */
  symbol: string;
  size: { by: 'shares' | 'dollars' | 'R' | 'power' | 'part'; value: string };
  price:
    | { by: 'market' | 'usual' | 'hidden' }
    /** A price of the market with so many cents added. */
    | { by: 'ask' | 'bid' | 'mid' | 'last'; cents: string }
    | { by: 'limit'; value: string }
    /** `limit`: '' for none. */
    | { by: 'stop'; value: string; limit: string }
    /** Of what closes: so far behind the best price. */
    | { by: 'trail'; value: string };
  life: '' | 'day' | 'gtc' | 'ioc' | 'fok';
  extended: boolean;
  /** '' for the account in use. */
  account: string;
  /** What it waits for, as after `when`; '' for nothing. */
  condition: string;
  /** '' for none, or for exits of its own. */
  plan: string;
  /** Exits of its own, a line each; kept while a plan stands in their place. */
  exits: string;
}

/** Whether a side closes what is held: no exits come with it. */
export const closes = (verb: Verb): boolean => verb === 'sell' || verb === 'cover';

const SIZES: readonly [TicketFields['size']['by'], RegExp][] = [
  ['shares', /^([\d,]+)$/],
  ['dollars', /^\$([\d,.]+)$/],
  ['R', /^risk ([\d.]+)R$/],
  ['power', /^([\d.]+)% of power$/],
  ['part', /^(all|half|third|quarter|rest|[\d.]+%)$/],
];

type Sent = TreeOf<'enter'> | TreeOf<'close'>;

/** The fields of a sentence; null where it says more than the form has room for. */
export function fieldsOf(text: string): TicketFields | null {
  const { statements, problems, comments } = parseScript(text);
  const [first] = statements;
  if (problems.length > 0 || comments.length > 0 || statements.length !== 1 || !first) return null;
  if (first.kind !== 'when') return sentFields(first, '');
  const [action] = first.actions;
  if (first.until !== null || !action || first.actions.length > 1) return null;
  return sentFields(action, `${first.newly ? 'newly ' : ''}${printTree(first.condition)}`);
}

function sentFields(s: { kind: string }, condition: string): TicketFields | null {
  if (!plainOrder(s)) return null;
  const [plan, exits] = s.kind === 'enter' ? [s.plan, s.exits] : [null, []];
  const size = sizeOf(printTree(s.size));
  const verb = s.verb as Verb;
  const price = s.pricing === null ? ({ by: 'usual' } as const) : priceOf(printTree(s.pricing), verb);
  const life = lifeOf(s.life);
  if (size === null || price === null || life === null || (plan !== null && exits.length > 0)) return null;
  const own = exits.map((x) => printTree(x)).join('\n');
  const symbol = s.instrument?.kind === 'stock' ? s.instrument.symbol : '';
  return { verb, symbol, size, price, ...life, condition, plan: plan ?? '', exits: own };
}

/** An order of a stock that goes at once and leads to nothing else. */
function plainOrder(s: { kind: string }): s is Sent {
  if (s.kind !== 'enter' && s.kind !== 'close') return false;
  const order = s as Sent;
  return (
    order.instrument?.kind !== 'option' && !order.staged && order.chain.length === 0 && order.verb !== 'close'
  );
}

function lifeOf(life: Sent['life']): Pick<TicketFields, 'life' | 'extended' | 'account'> | null {
  const out: Pick<TicketFields, 'life' | 'extended' | 'account'> = { life: '', extended: false, account: '' };
  for (const l of life) {
    if (l.kind === 'extended hours') out.extended = true;
    else if (l.kind === 'account') out.account = l.name;
    else if (l.kind === 'day' || l.kind === 'gtc' || l.kind === 'ioc' || l.kind === 'fok') out.life = l.kind;
    else return null;
  }
  return out;
}

function sizeOf(text: string): TicketFields['size'] | null {
  for (const [by, shape] of SIZES) {
    const value = shape.exec(text)?.[1];
    if (value !== undefined) return { by, value: value.replaceAll(',', '') };
  }
  return null;
}

const PLAIN: Readonly<Record<string, 'market' | 'usual' | 'hidden'>> = {
  'at market': 'market',
  'at usual through': 'usual',
  'at mid hidden': 'hidden',
};
const rises = (verb: Verb): boolean => verb === 'buy' || verb === 'cover';

function priceOf(text: string, verb: Verb): TicketFields['price'] | null {
  const plain = PLAIN[text];
  if (plain) return { by: plain };
  const named = /^at (ask|bid|mid|last)(?: ([+-]) (\d+)c)?$/.exec(text);
  if (named) {
    const cents = named[3] === undefined ? '0' : `${named[2] === '-' ? '-' : ''}${named[3]}`;
    return { by: named[1] as 'ask', cents };
  }
  const limit = /^at ([\d.]+)$/.exec(text)?.[1];
  if (limit !== undefined) return { by: 'limit', value: limit };
  const trail = /^trailing ([\d.]+(?:c|%| atr))$/.exec(text)?.[1];
  if (trail !== undefined) return { by: 'trail', value: trail };
  const stop = /^(above|below) ([\d.]+)(?: limit ([\d.]+))?$/.exec(text);
  if (!stop?.[2] || (stop[1] === 'above') !== rises(verb)) return null;
  return { by: 'stop', value: stop[2], limit: stop[3] ?? '' };
}

/** The sentence of the fields; it may not read where a field does not. */
export function sentenceOf(f: TicketFields): string {
  const words = [
    f.verb,
    sizeText(f.size),
    f.symbol === '' ? '' : `of ${f.symbol}`,
    pricing(f.price, f.verb),
    f.life,
    f.extended ? 'extended' : '',
    f.account === '' ? '' : `account "${f.account}"`,
  ];
  const enters = !closes(f.verb);
  if (enters && f.plan !== '') words.push(`with plan "${f.plan}"`);
  const lines = (enters && f.plan === '' ? f.exits : '').split('\n').filter((l) => l.trim() !== '');
  const waits = f.condition.trim() === '' ? '' : `when ${f.condition.trim()}: `;
  return [waits + words.filter((w) => w !== '').join(' '), ...lines.map((l) => `  ${l.trim()}`)].join('\n');
}

function sizeText({ by, value }: TicketFields['size']): string {
  switch (by) {
    case 'dollars':
      return `$${value}`;
    case 'R':
      return `risk ${value}R`;
    case 'power':
      return `${value}% of power`;
    default:
      return value;
  }
}

function pricing(price: TicketFields['price'], verb: Verb): string {
  switch (price.by) {
    case 'market':
      return 'at market';
    case 'usual':
      return 'at usual through';
    case 'hidden':
      return 'at mid hidden';
    case 'limit':
      return `at ${price.value}`;
    case 'stop':
      return `${rises(verb) ? 'above' : 'below'} ${price.value}${price.limit.trim() === '' ? '' : ` limit ${price.limit}`}`;
    case 'trail':
      return `trailing ${price.value}`;
    default: {
      const cents = Number(price.cents);
      const by = cents === 0 ? '' : cents < 0 ? ` - ${-cents}c` : ` + ${cents}c`;
      return `at ${price.by}${by}`;
    }
  }
}

/**
 * The same ticket for another side: the same place beside the quote of that side, and a size and a price that
 * this side can have. Its exits are kept for when it enters again.
 */
export function turned(f: TicketFields, verb: Verb): TicketFields {
  let { price, size } = f;
  if (rises(f.verb) !== rises(verb) && (price.by === 'ask' || price.by === 'bid')) {
    const cents = Number(price.cents);
    price = {
      by: price.by === 'ask' ? 'bid' : 'ask',
      cents: Number.isNaN(cents) ? price.cents : String(-cents || 0),
    };
  }
  if (closes(verb) && (size.by === 'R' || size.by === 'power')) size = { by: 'part', value: 'all' };
  if (!closes(verb) && size.by === 'part') size = { by: 'R', value: '1' };
  if (!closes(verb) && price.by === 'trail') price = { by: 'usual' };
  return { ...f, verb, price, size };
}

/** What the ticket starts from. */
export const PLAIN_TICKET: TicketFields = {
  verb: 'buy',
  symbol: '',
  size: { by: 'R', value: '1' },
  price: { by: 'usual' },
  life: '',
  extended: false,
  account: '',
  condition: '',
  plan: '',
  exits: 'stop usual',
};

/** The ticket after it was sent: what is to stay stays, the rest is plain again. */
export function afterSending(f: TicketFields, keeps: readonly TicketPart[]): TicketFields {
  const keep = (k: TicketPart) => keeps.includes(k);
  const verb = keep('side') ? f.verb : PLAIN_TICKET.verb;
  const left: TicketFields = {
    verb: f.verb,
    symbol: PLAIN_TICKET.symbol,
    size: keep('size') ? f.size : PLAIN_TICKET.size,
    price: keep('price') ? f.price : PLAIN_TICKET.price,
    life: keep('life') ? f.life : PLAIN_TICKET.life,
    extended: keep('life') ? f.extended : PLAIN_TICKET.extended,
    account: keep('life') ? f.account : PLAIN_TICKET.account,
    condition: keep('condition') ? f.condition : PLAIN_TICKET.condition,
    plan: keep('exits') ? f.plan : PLAIN_TICKET.plan,
    exits: keep('exits') ? f.exits : PLAIN_TICKET.exits,
  };
  return turned(left, verb);
}

/** A number stepped by so much, not below a least; what is no number stays as it is. */
export function stepped(text: string, by: number, least: number, places: number): string {
  const n = Number(text);
  return text.trim() === '' || Number.isNaN(n) ? text : Math.max(least, n + by).toFixed(places);
}

/** The text of an order for a symbol that it does not name; as it stands where it names one, or is no plain order. */
export function ofSymbol(text: string, symbol: string): string {
  const f = fieldsOf(text);
  return f && f.symbol === '' && !isOption(symbol) ? sentenceOf({ ...f, symbol }) : text;
}
