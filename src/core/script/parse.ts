import { type Cursor, cursor, done, peekToken, refuse, takeNumber, takeWords, Unreadable } from './cursor.ts';
import type { SyntaxProblem } from './problems.ts';
import { parseOr } from './rule.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Exit, ExitPlace, Handling, Line, Offset, Part, PriceBase, PriceExpr, Pricing, Script, Size, Statement } from './tree.ts';

export interface Parsed {
  script: Script;
  problems: SyntaxProblem[];
}

const STATEMENT_WORDS = ['buy', 'short', 'sell', 'cover', 'close', 'stage', 'move', 'cancel', 'flatten', 'alert'];
const EXIT_WORDS = ['stop', 'target', 'breakeven'];
const PRICE_WORDS = [
  'bid',
  'ask',
  'mid',
  'last',
  'open',
  'vwap',
  'entry',
  'breakeven',
  'stop',
  'prior',
  'day',
  'premarket',
  'opening',
  'whole',
  'half',
  'cursor',
];
const PART_WORDS = ['all', 'half', 'third', 'quarter', 'rest'];
const A_PRICE = 'a price: ask, bid, vwap, premarket high … or a number such as 7.40';
const AN_OFFSET = 'a distance such as 5c, 3 ticks, 1.5% or 1R';

/**
 * Reads a script. Every line that can be read is in the tree; every mistake is a problem with its
 * place. A script with problems must not be run.
 */
export function parseScript(text: string): Parsed {
  const problems: SyntaxProblem[] = [];
  const lines: Line[] = [];
  for (const tokens of sentences(tokenize(text))) {
    const first = tokens[0] as Token;
    const last = tokens[tokens.length - 1] as Token;
    const c = cursor(tokens, last.to);
    const span = { from: first.from, to: last.to };
    try {
      if (EXIT_WORDS.includes(first.text.toLowerCase())) {
        const owner = lines[lines.length - 1];
        const exit = parseExit(c);
        finish(c);
        if (owner?.statement.kind !== 'entry') throw new Unreadable({ code: 'stray exit', word: first.text, span });
        if (exit.kind === 'stop' && owner.statement.exits.some((e) => e.kind === 'stop')) throw new Unreadable({ code: 'two stops', span });
        owner.statement.exits.push(exit);
        owner.span.to = span.to;
      } else {
        const statement = parseStatement(c);
        finish(c);
        lines.push({ statement, span });
      }
    } catch (e) {
      if (!(e instanceof Unreadable)) throw e;
      problems.push(e.problem);
    }
  }
  if (lines.length === 0 && problems.length === 0) problems.push({ code: 'empty', span: { from: 0, to: text.length } });
  if (problems.length === 0) for (const line of lines) problems.push(...check(line));
  return { script: { lines }, problems };
}

/** Sentences end with a line, or with a comma before an exit (`buy …, stop 30c`). */
function sentences(tokens: Token[]): Token[][] {
  const out: Token[][] = [[]];
  for (const t of tokens) {
    if (t.kind === 'comment') continue;
    if (t.kind === 'line end' || t.text === ',') out.push([]);
    else (out[out.length - 1] as Token[]).push(t);
  }
  return out.filter((s) => s.length > 0);
}

function finish(c: Cursor): void {
  if (!done(c)) refuse(c, 'the end of the sentence', ['extended', 'gtc', 'ioc', 'fok', 'post', 'only', 'of', 'at', 'limit', 'for', 'plus', ...PRICE_WORDS]);
}

function parseStatement(c: Cursor): Statement {
  const staged = takeWords(c, 'stage');
  if (takeWords(c, 'buy')) return parseEntry(c, 'buy', staged);
  if (takeWords(c, 'short')) return parseEntry(c, 'short', staged);
  for (const verb of ['sell', 'cover', 'close'] as const) {
    if (takeWords(c, verb)) {
      const size = parseSize(c, true);
      const symbol = parseSymbol(c);
      const pricing = parsePricing(c);
      return { kind: 'close', verb, staged, size, symbol, pricing, ...parseHandling(c) };
    }
  }
  if (staged) refuse(c, 'an order after “stage”', ['buy', 'short', 'sell', 'cover', 'close']);
  if (takeWords(c, 'move')) return parseMove(c);
  if (takeWords(c, 'cancel')) return { kind: 'cancel', what: parseCancelled(c) };
  if (takeWords(c, 'flatten')) {
    const everything = takeWords(c, 'everything');
    return { kind: 'flatten', everything, symbol: everything ? null : parseSymbol(c) };
  }
  if (takeWords(c, 'alert')) return parseAlert(c);
  return refuse(c, 'an order: buy, short, sell, cover, close, move, cancel, flatten or alert', STATEMENT_WORDS);
}

function parseAlert(c: Cursor): Statement {
  const any = takeWords(c, 'any');
  if (takeWords(c, 'when')) {
    const rule = parseOr(c);
    return { kind: 'alert', any, on: { kind: 'rule', rule }, symbol: any ? null : parseSymbol(c) };
  }
  for (const kind of ['news', 'halt'] as const) if (takeWords(c, 'on', kind)) return { kind: 'alert', any, on: { kind }, symbol: any ? null : parseSymbol(c) };
  if (any) refuse(c, '“when” and a rule, “on news” or “on halt”', ['when', 'on']);
  if (takeWords(c, 'at')) {
    const price = parsePrice(c);
    return { kind: 'alert', any, on: { kind: 'price', price }, symbol: parseSymbol(c) };
  }
  return refuse(c, '“at” and a price, “when” and a rule, “on news” or “on halt”', ['at', 'when', 'on', 'any']);
}

function parseEntry(c: Cursor, verb: 'buy' | 'short', staged: boolean): Statement {
  const from = peekToken(c)?.from ?? c.end;
  const size = parseSize(c, false);
  if (size.kind === 'part') throw new Unreadable({ code: 'part on entry', span: { from, to: c.tokens[c.at - 1]?.to ?? c.end } });
  const symbol = parseSymbol(c);
  const pricing = parsePricing(c);
  return { kind: 'entry', verb, staged, size, symbol, pricing, ...parseHandling(c), exits: [] };
}

/** The words after the price, in any order. */
function parseHandling(c: Cursor): Handling {
  const out: Handling = { life: 'day', postOnly: false, extended: false };
  for (;;) {
    if (takeWords(c, 'extended')) out.extended = true;
    else if (takeWords(c, 'post', 'only')) out.postOnly = true;
    else if (takeWords(c, 'day')) out.life = 'day';
    else if (takeWords(c, 'gtc')) out.life = 'gtc';
    else if (takeWords(c, 'ioc')) out.life = 'ioc';
    else if (takeWords(c, 'fok')) out.life = 'fok';
    else return out;
  }
}

function parseMove(c: Cursor): Statement {
  if (takeWords(c, 'stop')) {
    const symbol = parseSymbol(c);
    if (!takeWords(c, 'to')) refuse(c, '“to” and a price', ['to']);
    return { kind: 'move stop', symbol, to: parsePrice(c) };
  }
  let order: number | 'last';
  if (takeWords(c, 'last', 'order')) order = 'last';
  else if (takeWords(c, 'order')) order = wholeNumber(c, 'the number of an order, such as 14');
  else return refuse(c, 'stop, last order, or order and its number', ['stop', 'last', 'order']);
  if (takeWords(c, 'to')) return { kind: 'move order', order, by: { kind: 'to', price: parsePrice(c) } };
  if (takeWords(c, 'up')) return { kind: 'move order', order, by: { kind: 'up', by: parseOffset(c) } };
  if (takeWords(c, 'down')) return { kind: 'move order', order, by: { kind: 'down', by: parseOffset(c) } };
  return refuse(c, '“to” and a price, or “up” or “down” and a distance', ['to', 'up', 'down']);
}

function parseCancelled(c: Cursor): Extract<Statement, { kind: 'cancel' }>['what'] {
  if (takeWords(c, 'last')) return { kind: 'order', order: 'last' };
  if (takeWords(c, 'order')) return { kind: 'order', order: wholeNumber(c, 'the number of an order, such as 14') };
  if (takeWords(c, 'symbol')) return { kind: 'symbol', symbol: parseSymbol(c) };
  if (takeWords(c, 'everything')) return { kind: 'everything' };
  return refuse(c, 'last, symbol, everything, or order and its number', ['last', 'symbol', 'everything', 'order']);
}

function parseSize(c: Cursor, closing: boolean): Size {
  if (takeWords(c, 'risk')) {
    const r = takeNumber(c, 'R');
    if (r) return { kind: 'risk', amount: { kind: 'R', r: r.value } };
    const t = peekToken(c);
    if (t?.kind === 'money') {
      c.at++;
      return { kind: 'risk', amount: { kind: 'dollars', dollars: t.value } };
    }
    return refuse(c, 'what to risk: 1R or $60');
  }
  const t = peekToken(c);
  if (t?.kind === 'money' && !closing) {
    c.at++;
    return { kind: 'money', dollars: t.value };
  }
  const part = takePart(c);
  if (part) return { kind: 'part', part };
  const shares = takeNumber(c, '');
  if (shares && Number.isInteger(shares.value) && shares.value > 0) return { kind: 'shares', shares: shares.value };
  if (shares) c.at--;
  return refuse(c, closing ? 'how much: half, all, 25% or shares (100)' : 'a size: shares (400), money ($2,500) or risk (risk 1R)', ['risk', ...PART_WORDS]);
}

function takePart(c: Cursor): Part | null {
  if (takeWords(c, 'all') || takeWords(c, 'rest')) return { kind: 'all' };
  if (takeWords(c, 'half')) return { kind: 'fraction', num: 1, den: 2 };
  if (takeWords(c, 'third')) return { kind: 'fraction', num: 1, den: 3 };
  if (takeWords(c, 'quarter')) return { kind: 'fraction', num: 1, den: 4 };
  const percent = takeNumber(c, '%');
  if (!percent) return null;
  if (percent.value <= 0 || percent.value > 100 || !Number.isInteger(percent.value)) {
    c.at--;
    return refuse(c, 'a whole percentage from 1% to 100%');
  }
  return { kind: 'fraction', num: percent.value, den: 100 };
}

function parseSymbol(c: Cursor): string | null {
  if (!takeWords(c, 'of')) return null;
  const t = peekToken(c);
  if (t?.kind === 'word' && /^[A-Z]{1,5}$/.test(t.text)) {
    c.at++;
    return t.text;
  }
  return refuse(c, 'a symbol in capitals');
}

function parsePricing(c: Cursor): Pricing {
  if (takeWords(c, 'at', 'market')) return { kind: 'market' };
  if (takeWords(c, 'at', 'mid', 'hidden')) return { kind: 'mid' };
  if (takeWords(c, 'sweep', 'mid')) {
    if (!takeWords(c, 'at')) refuse(c, '“at” and the price up to which the lit book may be taken, such as “sweep mid at ask + 2c”', ['at']);
    return { kind: 'sweep', price: parsePrice(c) };
  }
  for (const which of ['open', 'close'] as const) {
    const before = c.at;
    if (!takeWords(c, 'at', which)) continue;
    // “at open + 5c” is a limit by the opening price; “at open” and “at open 4.20” join the auction.
    const sign = peekToken(c);
    if (which === 'open' && sign?.kind === 'sign' && (sign.text === '+' || sign.text === '-')) {
      c.at = before;
      break;
    }
    return { kind: 'auction', which, price: startsPrice(c) ? parsePrice(c) : null };
  }
  if (takeWords(c, 'at')) return { kind: 'limit', price: parsePrice(c) };
  for (const way of ['above', 'below'] as const) {
    if (!takeWords(c, way)) continue;
    const trigger = parsePrice(c);
    return { kind: 'stop', way, trigger, limit: takeWords(c, 'limit') ? parsePrice(c) : null };
  }
  return refuse(c, '“at” and a price, “at market”, or “above”/“below” and a price', ['at', 'above', 'below', 'sweep', 'of']);
}

const startsPrice = (c: Cursor): boolean => {
  const t = peekToken(c);
  return t?.kind === 'number' || t?.kind === 'money' || (t?.kind === 'word' && PRICE_WORDS.includes(t.text.toLowerCase()));
};

/** Reads a price: a reference or a number, then offsets. */
function parsePrice(c: Cursor): PriceExpr {
  const base = parseBase(c);
  const offsets: PriceExpr['offsets'] = [];
  for (;;) {
    const sign = takeWords(c, '+') ? 1 : takeWords(c, '-') ? -1 : 0;
    if (sign === 0) return { base, offsets };
    offsets.push({ sign, by: parseOffset(c) });
  }
}

function parseBase(c: Cursor): PriceBase {
  const money = peekToken(c);
  if (money?.kind === 'money') {
    c.at++;
    return { kind: 'number', dollars: money.value };
  }
  const minutes = takeNumber(c, 'm');
  if (minutes) {
    if (![1, 2, 5, 15].includes(minutes.value)) {
      c.at--;
      refuse(c, 'a candle of 1m, 2m, 5m or 15m');
    }
    for (const edge of ['high', 'low', 'open', 'close'] as const) {
      if (takeWords(c, edge)) return { kind: 'candle', minutes: minutes.value, edge };
    }
    refuse(c, 'high, low, open or close', ['high', 'low', 'open', 'close']);
  }
  const number = takeNumber(c, '');
  if (number) return { kind: 'number', dollars: number.value };
  for (const name of ['bid', 'ask', 'mid', 'last', 'open', 'vwap', 'entry', 'breakeven', 'stop'] as const) {
    if (takeWords(c, name)) return { kind: 'name', name };
  }
  if (takeWords(c, 'cursor')) return { kind: 'name', name: 'cursor' };
  for (const step of ['whole', 'half'] as const) {
    if (!takeWords(c, step, 'dollar')) continue;
    for (const way of ['above', 'below'] as const) if (takeWords(c, way)) return { kind: 'name', name: `${step} dollar ${way}` };
    refuse(c, 'above or below', ['above', 'below']);
  }
  if (takeWords(c, 'opening', 'range')) {
    const range = takeNumber(c, 'm');
    if (!range || range.value < 1 || range.value > 60 || !Number.isInteger(range.value)) {
      if (range) c.at--;
      return refuse(c, 'how long the range is: 5m, or any whole number of minutes up to 60m');
    }
    for (const edge of ['high', 'low'] as const) if (takeWords(c, edge)) return { kind: 'opening range', minutes: range.value, edge };
    refuse(c, 'high or low', ['high', 'low']);
  }
  if (takeWords(c, 'prior')) {
    for (const edge of ['close', 'high', 'low'] as const) if (takeWords(c, edge)) return { kind: 'name', name: `prior ${edge}` };
    refuse(c, 'close, high or low', ['close', 'high', 'low']);
  }
  for (const range of ['day', 'premarket'] as const) {
    if (takeWords(c, range)) {
      if (range === 'premarket' && takeNumber(c, 'm')) {
        if (c.tokens[c.at - 1]?.value !== 15) {
          c.at--;
          refuse(c, '15m: the last 15-minute candle before the open');
        }
        for (const edge of ['high', 'low'] as const) if (takeWords(c, edge)) return { kind: 'premarket candle', edge };
        refuse(c, 'high or low', ['high', 'low']);
      }
      for (const edge of ['high', 'low'] as const) if (takeWords(c, edge)) return { kind: 'name', name: `${range} ${edge}` };
      refuse(c, 'high or low', ['high', 'low']);
    }
  }
  return refuse(c, A_PRICE, PRICE_WORDS);
}

function parseOffset(c: Cursor): Offset {
  const t = takeNumber(c, 'c', '%', 'R', '');
  if (t) {
    if (t.suffix === 'c') return { value: t.value, unit: 'cents' };
    if (t.suffix === '%') return { value: t.value, unit: 'percent' };
    if (t.suffix === 'R') return { value: t.value, unit: 'R' };
    if (takeWords(c, 'ticks') || takeWords(c, 'tick')) return { value: t.value, unit: 'ticks' };
    return { value: t.value, unit: 'dollars' };
  }
  const money = peekToken(c);
  if (money?.kind === 'money') {
    c.at++;
    return { value: money.value, unit: 'dollars' };
  }
  return refuse(c, AN_OFFSET);
}

function parsePlace(c: Cursor): ExitPlace {
  return takeWords(c, 'at') ? { kind: 'at', price: parsePrice(c) } : { kind: 'distance', by: parseOffset(c) };
}

function parseExit(c: Cursor): Exit {
  if (takeWords(c, 'stop')) return { kind: 'stop', place: parsePlace(c) };
  if (takeWords(c, 'target')) {
    const place = parsePlace(c);
    if (!takeWords(c, 'for')) return { kind: 'target', place, part: null };
    return { kind: 'target', place, part: takePart(c) ?? refuse(c, 'a part: half, third, quarter, 25%, rest or all', PART_WORDS) };
  }
  takeWords(c, 'breakeven');
  if (!takeWords(c, 'after')) refuse(c, '“after” and a gain, such as “after 1.3R” or “after target 1”', ['after']);
  const after = takeWords(c, 'target')
    ? { kind: 'target' as const, number: wholeNumber(c, 'the number of a target') }
    : { kind: 'gain' as const, by: parseOffset(c) };
  return { kind: 'breakeven', after, plusCosts: takeWords(c, 'plus', 'costs') };
}

function wholeNumber(c: Cursor, expected: string): number {
  const t = takeNumber(c, '');
  if (t && Number.isInteger(t.value) && t.value > 0) return t.value;
  if (t) c.at--;
  return refuse(c, expected);
}

/** Words after the price that do not go with it. */
function checkHandling(s: Extract<Statement, { kind: 'entry' | 'close' }>, span: Line['span']): SyntaxProblem[] {
  const unfit = (found: string, expected: string): SyntaxProblem[] => [{ code: 'unfit unit', found, expected, span }];
  const instant = s.life === 'ioc' || s.life === 'fok';
  if (s.pricing.kind === 'auction' && (s.extended || s.life !== 'day' || s.postOnly))
    return unfit('“extended”, “gtc”, “ioc”, “fok” or “post only”', 'nothing after it: an auction order works in that auction only');
  if (s.pricing.kind === 'mid' && (s.extended || s.life === 'gtc' || s.postOnly))
    return unfit('“extended”, “gtc” or “post only”', '“day”, “ioc” or “fok”: midpoint orders live for the regular session');
  if (s.postOnly && (instant || s.pricing.kind !== 'limit')) return unfit('“post only”', 'a limit order that may rest: at PRICE post only');
  if (instant && (s.pricing.kind === 'market' || s.pricing.kind === 'stop'))
    return unfit(`“${s.life}”`, 'a limit order: at PRICE, at mid hidden or sweep mid at PRICE');
  return [];
}

/** What can be wrong with a readable line whatever the market does. */
function check({ statement: s, span }: Line): SyntaxProblem[] {
  if (s.kind === 'entry' || s.kind === 'close') {
    const unfit = checkHandling(s, span);
    if (unfit.length > 0) return unfit;
  }
  if (s.kind !== 'entry') {
    return s.kind === 'close' && s.size.kind === 'risk' ? [{ code: 'unfit unit', found: 'risk', expected: 'a part or shares', span }] : [];
  }
  const out: SyntaxProblem[] = [];
  const stop = s.exits.find((e) => e.kind === 'stop');
  const usesR = s.exits.some(
    (e) =>
      (e.kind === 'target' && e.place.kind === 'distance' && e.place.by.unit === 'R') ||
      (e.kind === 'breakeven' && e.after.kind === 'gain' && e.after.by.unit === 'R'),
  );
  if (!stop && s.size.kind === 'risk') out.push({ code: 'risk without stop', span });
  else if (!stop && usesR) out.push({ code: 'R without stop', span });
  if (stop?.kind === 'stop' && stop.place.kind === 'distance' && stop.place.by.unit === 'R') {
    out.push({ code: 'unfit unit', found: 'A stop in R', expected: 'a distance that defines R, such as 30c or 2%', span });
  }
  const targets = s.exits.filter((e) => e.kind === 'target');
  let sum = 0;
  targets.forEach((t, i) => {
    if (t.part?.kind === 'fraction') sum += t.part.num / t.part.den;
    else if (i < targets.length - 1) sum += 1;
  });
  if (sum > 1 + 1e-9) out.push({ code: 'too many parts', total: `${Math.round(sum * 100)}%`, span });
  for (const e of s.exits) {
    if (e.kind === 'breakeven' && e.after.kind === 'target' && e.after.number > targets.length) {
      out.push({ code: 'no such target', number: e.after.number, have: targets.length, span });
    }
  }
  return out;
}
