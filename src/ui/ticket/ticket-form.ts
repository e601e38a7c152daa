// The ticket's sentence as the fields of a form, and back: two views of one sentence.
import { parseScript, printTree } from '@/core/language';

export interface TicketFields {
  verb: 'buy' | 'short';
  size: { by: 'shares' | 'dollars' | 'R' | 'power'; value: string };
  price:
    | { by: 'market' }
    | { by: 'usual' }
    /** A price of the market with so many cents added. */
    | { by: 'ask' | 'bid' | 'mid' | 'last'; cents: string }
    | { by: 'limit' | 'stop'; value: string };
  extended: boolean;
  /** '' for none, or for exits of its own. */
  plan: string;
  /** Exits of its own, a line each; kept while a plan stands in their place. */
  exits: string;
}

const SIZES: readonly [TicketFields['size']['by'], RegExp][] = [
  ['shares', /^([\d,]+)$/],
  ['dollars', /^\$([\d,.]+)$/],
  ['R', /^risk ([\d.]+)R$/],
  ['power', /^([\d.]+)% of power$/],
];

/** The fields of a sentence; null where it says more than the form has room for. */
export function fieldsOf(text: string): TicketFields | null {
  const { statements, problems, comments } = parseScript(text);
  const [s] = statements;
  if (problems.length > 0 || comments.length > 0 || statements.length !== 1 || s?.kind !== 'enter')
    return null;
  if (s.symbol !== null || s.staged || s.chain.length > 0) return null;
  if (s.plan !== null && s.exits.length > 0) return null;
  if (s.life.some((l) => l.kind !== 'extended hours')) return null;
  const size = sizeOf(printTree(s.size));
  const price = priceOf(printTree(s.pricing), s.verb);
  if (size === null || price === null) return null;
  const exits = s.exits.map((x) => printTree(x)).join('\n');
  return { verb: s.verb, size, price, extended: s.life.length > 0, plan: s.plan ?? '', exits };
}

function sizeOf(text: string): TicketFields['size'] | null {
  for (const [by, shape] of SIZES) {
    const value = shape.exec(text)?.[1];
    if (value !== undefined) return { by, value: value.replaceAll(',', '') };
  }
  return null;
}

function priceOf(text: string, verb: TicketFields['verb']): TicketFields['price'] | null {
  if (text === 'at market') return { by: 'market' };
  if (text === 'at usual through') return { by: 'usual' };
  const named = /^at (ask|bid|mid|last)(?: ([+-]) (\d+)c)?$/.exec(text);
  if (named) {
    const cents = named[3] === undefined ? '0' : `${named[2] === '-' ? '-' : ''}${named[3]}`;
    return { by: named[1] as 'ask', cents };
  }
  const limit = /^at ([\d.]+)$/.exec(text)?.[1];
  if (limit !== undefined) return { by: 'limit', value: limit };
  const stop = (verb === 'buy' ? /^above ([\d.]+)$/ : /^below ([\d.]+)$/).exec(text)?.[1];
  return stop === undefined ? null : { by: 'stop', value: stop };
}

/** The sentence of the fields; it may not read where a field does not. */
export function sentenceOf(f: TicketFields): string {
  const { size, price } = f;
  const much =
    size.by === 'shares'
      ? size.value
      : size.by === 'dollars'
        ? `$${size.value}`
        : size.by === 'R'
          ? `risk ${size.value}R`
          : `${size.value}% of power`;
  const words = [f.verb, much, pricing(price, f.verb), f.extended ? 'extended' : ''];
  if (f.plan !== '') words.push(`with plan "${f.plan}"`);
  const lines = (f.plan === '' ? f.exits : '').split('\n').filter((l) => l.trim() !== '');
  return [words.filter((w) => w !== '').join(' '), ...lines.map((l) => `  ${l.trim()}`)].join('\n');
}

function pricing(price: TicketFields['price'], verb: TicketFields['verb']): string {
  switch (price.by) {
    case 'market':
      return 'at market';
    case 'usual':
      return 'at usual through';
    case 'limit':
      return `at ${price.value}`;
    case 'stop':
      return `${verb === 'buy' ? 'above' : 'below'} ${price.value}`;
    default: {
      const cents = Number(price.cents);
      const by = cents === 0 ? '' : cents < 0 ? ` - ${-cents}c` : ` + ${cents}c`;
      return `at ${price.by}${by}`;
    }
  }
}

/** A number stepped by so much, not below a least; what is no number stays as it is. */
export function stepped(text: string, by: number, least: number, places: number): string {
  const n = Number(text);
  return text.trim() === '' || Number.isNaN(n) ? text : Math.max(least, n + by).toFixed(places);
}
