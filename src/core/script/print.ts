import { unreachable } from '../units/index.ts';
import type { Exit, ExitPlace, Offset, Part, PriceExpr, Pricing, Rule, RuleNumber, Script, Size, Statement } from './tree.ts';

/** The tidy text of a script: `parseScript(printScript(tree))` gives the same tree. */
export const printScript = (script: Script): string => script.lines.map((l) => printStatement(l.statement)).join('\n');

/** The tidy sentence of one statement; exits on indented lines of their own. */
export function printStatement(s: Statement): string {
  const of = 'symbol' in s && s.symbol ? ` of ${s.symbol}` : '';
  switch (s.kind) {
    case 'entry':
      return [orderLine(s, of), ...s.exits.map((e) => `  ${printExit(e)}`)].join('\n');
    case 'close':
      return orderLine(s, of);
    case 'move stop':
      return `move stop${of} to ${printPrice(s.to)}`;
    case 'move order': {
      const which = s.order === 'last' ? 'last order' : `order ${s.order}`;
      return s.by.kind === 'to' ? `move ${which} to ${printPrice(s.by.price)}` : `move ${which} ${s.by.kind} ${printOffset(s.by.by)}`;
    }
    case 'cancel':
      switch (s.what.kind) {
        case 'order':
          return s.what.order === 'last' ? 'cancel last' : `cancel order ${s.what.order}`;
        case 'symbol':
          return s.what.symbol ? `cancel symbol of ${s.what.symbol}` : 'cancel symbol';
        case 'everything':
          return 'cancel everything';
        default:
          return unreachable(s.what);
      }
    case 'flatten':
      return s.everything ? 'flatten everything' : `flatten${of}`;
    case 'alert': {
      const what = s.on.kind === 'price' ? `at ${printPrice(s.on.price)}` : s.on.kind === 'rule' ? `when ${printRule(s.on.rule)}` : `on ${s.on.kind}`;
      return `alert ${s.any ? 'any ' : ''}${what}${of}`;
    }
    default:
      return unreachable(s);
  }
}

type OrderStatement = Extract<Statement, { kind: 'entry' | 'close' }>;
const orderLine = (s: OrderStatement, of: string): string =>
  `${s.staged ? 'stage ' : ''}${s.verb} ${printSize(s.size)}${of} ${printPricing(s.pricing)}${s.life === 'day' ? '' : ` ${s.life}`}${s.postOnly ? ' post only' : ''}${s.extended ? ' extended' : ''}`;

function printPricing(p: Pricing): string {
  switch (p.kind) {
    case 'market':
      return 'at market';
    case 'limit':
      return `at ${printPrice(p.price)}`;
    case 'stop':
      return `${p.way} ${printPrice(p.trigger)}${p.limit ? ` limit ${printPrice(p.limit)}` : ''}`;
    case 'mid':
      return 'at mid hidden';
    case 'sweep':
      return `sweep mid at ${printPrice(p.price)}`;
    case 'auction':
      return `at ${p.which}${p.price ? ` ${printPrice(p.price)}` : ''}`;
    default:
      return unreachable(p);
  }
}

function printExit(e: Exit): string {
  switch (e.kind) {
    case 'stop':
      return `stop ${printPlace(e.place)}`;
    case 'target':
      return `target ${printPlace(e.place)}${e.part ? ` for ${printPart(e.part)}` : ''}`;
    case 'breakeven': {
      const after = e.after.kind === 'gain' ? printOffset(e.after.by) : `target ${e.after.number}`;
      return `breakeven after ${after}${e.plusCosts ? ' plus costs' : ''}`;
    }
    default:
      return unreachable(e);
  }
}

const printPlace = (p: ExitPlace): string => (p.kind === 'at' ? `at ${printPrice(p.price)}` : printOffset(p.by));

export function printSize(s: Size): string {
  switch (s.kind) {
    case 'shares':
      return String(s.shares);
    case 'money':
      return `$${grouped(s.dollars)}`;
    case 'risk':
      return s.amount.kind === 'R' ? `risk ${s.amount.r}R` : `risk $${grouped(s.amount.dollars)}`;
    case 'part':
      return printPart(s.part);
    default:
      return unreachable(s);
  }
}

function printPart(p: Part): string {
  if (p.kind === 'all') return 'all';
  if (p.num === 1 && p.den === 2) return 'half';
  if (p.num === 1 && p.den === 3) return 'third';
  if (p.num === 1 && p.den === 4) return 'quarter';
  return `${(p.num * 100) / p.den}%`;
}

/** Text of a price expression, e.g. `premarket high + 10c`. */
export function printPrice(p: PriceExpr): string {
  return printBase(p.base) + p.offsets.map((o) => ` ${o.sign === 1 ? '+' : '-'} ${printOffset(o.by)}`).join('');
}

function printBase(b: PriceExpr['base']): string {
  switch (b.kind) {
    case 'name':
      return b.name;
    case 'candle':
      return `${b.minutes}m ${b.edge}`;
    case 'premarket candle':
      return `premarket 15m ${b.edge}`;
    case 'opening range':
      return `opening range ${b.minutes}m ${b.edge}`;
    case 'number':
      return decimal(b.dollars);
    default:
      return unreachable(b);
  }
}

function printOffset(o: Offset): string {
  switch (o.unit) {
    case 'cents':
      return `${o.value}c`;
    case 'dollars':
      return decimal(o.value);
    case 'ticks':
      return `${o.value} ${o.value === 1 ? 'tick' : 'ticks'}`;
    case 'percent':
      return `${o.value}%`;
    case 'R':
      return `${o.value}R`;
    default:
      return unreachable(o.unit);
  }
}

/** At least two decimals, so that it reads as money, and no digit lost. */
const decimal = (n: number): string => (Number(n.toFixed(2)) === n ? n.toFixed(2) : String(n));
const grouped = (n: number): string => n.toLocaleString('en-US', { maximumFractionDigits: 4, useGrouping: true });

const UNIT_TEXT = { percent: '%', dollars: '', shares: '', times: '', cents: 'c', minutes: 'm', bp: '', count: '', atr: '', choice: '', flag: '' } as const;

/** The tidy text of a rule. */
export function printRule(r: Rule): string {
  switch (r.kind) {
    case 'compare':
      return `${r.field} ${r.op} ${printRuleNumber(r.to)}`;
    case 'between':
      return `${r.field} between ${printRuleNumber(r.low)} and ${printRuleNumber(r.high)}`;
    case 'is':
      return `${r.field} is ${r.not ? 'not ' : ''}${r.choice}`;
    case 'flag':
      return r.field;
    case 'not':
      return `not ${wrap(r.rule, true)}`;
    case 'and':
      return `${wrap(r.left, r.left.kind === 'or')} and ${wrap(r.right, r.right.kind === 'or' || r.right.kind === 'and')}`;
    case 'or':
      return `${printRule(r.left)} or ${wrap(r.right, r.right.kind === 'or')}`;
    default:
      return unreachable(r);
  }
}

const wrap = (r: Rule, bracket: boolean): string => (bracket && (r.kind === 'and' || r.kind === 'or') ? `(${printRule(r)})` : printRule(r));

function printRuleNumber(n: RuleNumber): string {
  const unit = n.unit ? UNIT_TEXT[n.unit] : '';
  if (n.unit === null || n.unit === 'shares' || n.unit === 'dollars') {
    if (n.value >= 1e6 && (n.value / 1e5) % 1 === 0) return `${n.value / 1e6}M`;
    if (n.value >= 1e4 && (n.value / 100) % 1 === 0) return `${n.value / 1e3}k`;
  }
  return `${n.value}${unit}`;
}
