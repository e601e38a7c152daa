import type { FieldUnit } from '../market/index.ts';
import type { Span } from './marks.ts';

/** What can be wrong with a text whatever the market does. The wording is in {@link explain}. */
type Wrong =
  | { code: 'unknown word'; word: string; nearest: string | null; expected: string }
  | { code: 'missing'; expected: string; after: string | null }
  | { code: 'unfit'; found: string; expected: string }
  | { code: 'bounds'; found: string; least: string; most: string }
  | { code: 'decimal comma'; found: string }
  | { code: 'places'; found: string; step: string }
  | { code: 'bare number'; found: string }
  | { code: 'bare risk'; found: string }
  | { code: 'at or away'; found: string }
  | { code: 'no such candle'; found: string }
  | { code: 'no such time'; found: string }
  | { code: 'at night'; found: string }
  /** A value that reads and hardly means what it says. */
  | { code: 'so few'; found: string; unit: 'shares' | 'cents' }
  | { code: 'no expiry'; found: string }
  | { code: 'thousand'; found: string }
  | { code: 'ticket price' }
  | { code: 'which way' }
  | { code: 'gain price' }
  | { code: 'route' }
  | { code: 'account waits' }
  | { code: 'text length'; found: number; most: number }
  | { code: 'quote symbol'; symbol: string }
  | { code: 'symbol case'; found: string }
  | { code: 'open quote' }
  | { code: 'part on entry' }
  | { code: 'risk on close' }
  | { code: 'power on close'; percent: string }
  | { code: 'which open' }
  | { code: 'which close' }
  | { code: 'whose price'; symbol: string }
  | { code: 'field unit'; field: string; found: string; expected: FieldUnit; example: string }
  | { code: 'between turned'; low: string; high: string }
  | { code: 'risk without stop' }
  | { code: 'R without stop' }
  | { code: 'stop in R' }
  | { code: 'too many parts'; what: string; total: string }
  | { code: 'two of a kind'; what: string }
  | { code: 'no such target'; number: number; have: number }
  | { code: 'stray exit'; word: string }
  /** What stands under a sentence, or behind a comma, and is no part of it; `waits`: now, or when that fires? */
  | { code: 'whose line'; what: string; comma: boolean; waits: boolean }
  | { code: 'nothing attached' }
  | { code: 'not an exit' }
  | { code: 'not two'; have: number }
  | { code: 'plan and exits' }
  | { code: 'two lives'; first: string; second: string }
  | { code: 'unfit life'; life: string; because: string }
  | { code: 'trailing entry' }
  | { code: 'too deep' }
  | { code: 'too long'; most: number }
  | { code: 'too many'; what: string }
  | { code: 'empty' }
  | { code: 'empty rule' }
  | { code: 'not in a scan'; found: string; because: string };

/** What is wrong, before it has a place: `at` is the tree that it is about, `fixes` what may stand in its place instead. */
export type Finding = Wrong & { fixes: readonly string[]; at?: object };

/** One press that mends a problem: this text in that place. */
export interface Fix extends Span {
  text: string;
  /** What other people call a thing, with what it is here: declared with its form. */
  declared?: true;
}
/** A mistake with its place, and what would mend it. */
export type Problem = Wrong & { span: Span; fixes: readonly Fix[] };

/** A finding in its place. */
export function placed(finding: Finding, span: Span): Problem {
  const { fixes, at: _at, ...wrong } = finding;
  // What a question offers belongs to the question.
  const asks = finding.code === 'no expiry' || finding.code === 'which way' || finding.code === 'gain price';
  const put = (text: string): Fix => ({ ...span, text, ...(asks ? { declared: true } : {}) });
  return { ...wrong, span, fixes: fixes.map(put) } as Problem;
}

const UNITS: Readonly<Record<FieldUnit, string>> = {
  percent: 'percent',
  dollars: 'dollars',
  shares: 'shares',
  times: 'times',
  cents: 'cents',
  minutes: 'minutes',
  bp: 'basis points',
  count: 'a count',
  atr: 'average true ranges',
  choice: 'one of its choices',
  flag: 'yes or no',
};

/** The sentence that the trader reads: what is wrong, and what would be right. */
export function explain(p: Wrong): string {
  switch (p.code) {
    case 'unknown word':
      return p.nearest
        ? `“${p.word}” is not known here. Did you mean “${p.nearest}”?`
        : `“${p.word}” is not known here. Expected ${p.expected}.`;
    case 'missing':
      return p.after === null
        ? `There should be ${p.expected} here.`
        : `After “${p.after}” there should be ${p.expected}.`;
    case 'unfit':
      return `${p.found} does not fit here. Expected ${p.expected}.`;
    case 'bounds':
      return `${p.found} is out of bounds: from ${p.least} to ${p.most} passes.`;
    case 'decimal comma':
      return `${p.found}: a comma stands before three digits; the decimal sign is a point.`;
    case 'places':
      return `${p.found} is finer than can be meant here: whole steps of ${p.step} pass.`;
    case 'bare number':
      return `${p.found} what? A distance says its measure: ${p.found.includes('.') ? '' : `${p.found}c, `}$${p.found}${p.found.includes('.') ? '' : ` or ${p.found} ${p.found === '1' ? 'tick' : 'ticks'}`}.`;
    case 'bare risk':
      return `Risk ${p.found} what? $${p.found}, or ${p.found}R, which is so many of your risk units.`;
    case 'at or away':
      return `${p.found}: at the price ${p.found}, or ${p.found} dollars away? Write “at ${p.found}” or “$${p.found}”.`;
    case 'no such candle':
      return `There is no candle of ${p.found}; there are 1m, 2m, 3m, 5m, 10m, 15m, 30m and 60m.`;
    case 'no such time':
      return `${p.found} does not exist: a time is 00:00 to 23:59, a date year-month-day.`;
    case 'at night':
      return `${p.found} is at night, when nothing trades: times of the afternoon are written as 15:50.`;
    case 'so few':
      return p.unit === 'shares'
        ? `${p.found} shares, or ${p.found} million? Write which one is meant.`
        : `${p.found} of a cent, or ${p.found} of a dollar? Write which one is meant.`;
    case 'no expiry':
      return `Which expiry? An option says when it expires, such as 2027-04-16 or 30 days, before its strike: ${p.found}.`;
    case 'thousand':
      return `${p.found}: a point before three digits is no separator here, it would be a single share. Write it without the point, or with a comma.`;
    case 'which way':
      return 'Crosses which way? Above or below.';
    case 'gain price':
      return 'A gain is no price. To sell once the trade has made so much, wait for it: when gain >= 2R: sell half. As an exit under an entry: target 2R for half.';
    case 'ticket price':
      return 'The ticket has a size and no price of its own: give a price such as ask + 2c.';
    case 'route':
      return 'An order names its price, not its route: it goes to the lit book; “at mid hidden” waits at the midpoint, “sweep mid at” and a price tries that first.';
    case 'account waits':
      return 'What waits acts in the account that it is set in: write “account” and a name behind its orders instead.';
    case 'text length':
      return p.found === 0
        ? 'There is nothing between the quotes.'
        : `The text has ${p.found} characters; at most ${p.most} pass.`;
    case 'quote symbol':
      return `${p.symbol} is a word of the language; a symbol that is called so stands in quotes: "${p.symbol}".`;
    case 'symbol case':
      return `A symbol is written in capitals: ${p.found.toUpperCase()}.`;
    case 'open quote':
      return 'A quote is opened here and not closed on this line.';
    case 'part on entry':
      return 'A part of the position cannot be bought. Give shares (400), money ($2,500) or risk (risk 1R); “add half” adds a part of what is held.';
    case 'risk on close':
      return 'What is closed is given as a part, in shares or in money: half, 25%, 100, $600. A risk is for opening.';
    case 'power on close':
      return `“of power” is a part of your buying power, which opens positions. For a symbol called POWER write ${p.percent} of "POWER".`;
    case 'which open':
      return '“at open” could be two things: “at the open” joins the opening auction, “at day open” is a limit at the opening price.';
    case 'which close':
      return '“at close” could be two things: in the closing auction (“at the close”), or a price (“at prior close”).';
    case 'whose price':
      return `Whose? “of ${p.symbol}” right after the size trades ${p.symbol}; in brackets only the price is that of ${p.symbol}.`;
    case 'field unit':
      return `“${p.field}” is measured in ${UNITS[p.expected]}, not in ${p.found}. For example: ${p.example}.`;
    case 'between turned':
      return `Between ${p.low} and ${p.high} there is nothing: the lower value comes first.`;
    case 'risk without stop':
      return 'A size by risk needs a stop to measure it: add a line such as “stop 30c”.';
    case 'R without stop':
      return 'R is the distance to the stop: add a line such as “stop 30c”, or give the distance in cents or percent.';
    case 'stop in R':
      return 'A stop in R would be measured by itself: give it a distance that defines R, such as 30c or 2%.';
    case 'too many parts':
      return `The ${p.what} add up to ${p.total} of the position; together they may be at most all of it.`;
    case 'two of a kind':
      return `A second ${p.what} without a part: the first one is for all that is left. Give each its part, or keep one.`;
    case 'no such target':
      return p.have === 0
        ? 'There is no target here to wait for.'
        : `There is no target ${p.number}; this order has ${p.have}.`;
    case 'stray exit':
      return `“${p.word}” belongs under an entry or “attach”: put it on a line after “buy …”, “short …” or “attach”.`;
    case 'whose line':
      if (!p.comma)
        return `“${p.what}” stands deeper than the line before and is no part of it. Write it as a line of its own.`;
      return p.waits
        ? `A comma joins exits to their order, and nothing else: is “${p.what}” to go now, on a line of its own, or when the condition fires, on a line under it?`
        : `A comma joins exits to their order, and nothing else: write “${p.what}” on a line of its own.`;
    case 'nothing attached':
      return 'Attach what? Put exits on lines below it, such as “stop 30c”, or name a plan: attach plan "two steps".';
    case 'plan and exits':
      return 'The plan has its own exits: keep the plan or the exits.';
    case 'not an exit':
      return 'A plan holds exits only: stop, target, trail, breakeven, out by.';
    case 'not two':
      return `“one of” joins two orders, each on a line of its own and indented under it; here ${p.have === 1 ? 'is one' : `are ${p.have}`}.`;
    case 'two lives':
      return `“${p.first}” and “${p.second}” cannot both be: an order has one life. Keep one of them.`;
    case 'unfit life':
      return `“${p.life}” does not fit here: ${p.because}.`;
    case 'trailing entry':
      return 'A trailing stop closes what is held. To enter when the price turns: above 1m high + 1c.';
    case 'too deep':
      return 'More than eight brackets or “not” inside one another: write it flatter.';
    case 'too long':
      return `A script has at most ${p.most.toLocaleString('en-US')} characters.`;
    case 'too many':
      return `${p.what}: leave the rest out.`;
    case 'empty':
      return 'Nothing is written yet. For example: buy 100 at ask + 2c';
    case 'not in a scan':
      return `“${p.found}” cannot be scanned for: a scan looks at every symbol, and ${p.because}. It can be waited for of one symbol: “alert when …”, “when …:”, or the key of a rehearsal.`;
    case 'empty rule':
      return 'The rule is empty. For example: gap > 8% and price between 2 and 20';
  }
}
