import type { Leaf, Taken } from './grammar.ts';
import { DATE, SYMBOL } from './leaves.ts';
import type { Token } from './tokens.ts';

/** When an option expires: on a date, or the listed expiry nearest to so many days from now. */
export type ExpiryText = { kind: 'date'; date: string } | { kind: 'days'; days: number };
/** Which strike: a price in dollars, the one with a delta (in hundredths), the one nearest to the price, or so many strikes out of the money. */
export type StrikeText =
  | { kind: 'strike'; strike: string }
  | { kind: 'delta'; delta: number }
  | { kind: 'money' }
  | { kind: 'out'; out: number };

/** An option or a vertical as a sentence names it. */
export interface OptionText {
  /** Null: that of the focus. */
  root: string | null;
  expiry: ExpiryText;
  strike: StrikeText;
  /** The other strike of a vertical: a price, or so many dollars further out. */
  other: { kind: 'strike'; strike: string } | { kind: 'wide'; dollars: string } | null;
  right: 'call' | 'put';
}

const strikeText = (s: StrikeText): string =>
  s.kind === 'strike'
    ? s.strike
    : s.kind === 'delta'
      ? `${s.delta} delta`
      : s.kind === 'money'
        ? 'at the money'
        : `${s.out} out`;

/** An option as text: how trees hold it, and how it is written, but for quotes around a root that is a word of the language. */
export function optionText(o: OptionText): string {
  const expiry = o.expiry.kind === 'date' ? o.expiry.date : `${o.expiry.days} days`;
  const other =
    o.other === null ? '' : o.other.kind === 'wide' ? ` ${o.other.dollars} wide` : `/${o.other.strike}`;
  return `${o.root === null ? '' : `${o.root} `}${expiry} ${strikeText(o.strike)}${other} ${o.right}`;
}

const TEXT =
  /^(?:([A-Z]{1,6}) )?(?:(\d{4}-\d\d-\d\d)|(\d+) days) (?:(\d+(?:\.\d+)?)(?:\/(\d+(?:\.\d+)?))?|(\d+) delta|(at the money)|(\d+) out)(?: (\d+(?:\.\d+)?) wide)? (call|put)$/;

/** Reads what {@link optionText} wrote; null for anything else, a plain symbol above all. */
export function readOptionText(text: string): OptionText | null {
  const m = TEXT.exec(text);
  if (!m) return null;
  const [, root, date, days, strike, second, delta, money, out, wide, right] = m;
  return {
    root: root ?? null,
    expiry: date === undefined ? { kind: 'days', days: Number(days) } : { kind: 'date', date },
    strike:
      strike !== undefined
        ? { kind: 'strike', strike }
        : delta !== undefined
          ? { kind: 'delta', delta: Number(delta) }
          : money !== undefined
            ? { kind: 'money' }
            : { kind: 'out', out: Number(out) },
    other:
      second !== undefined
        ? { kind: 'strike', strike: second }
        : wide !== undefined
          ? { kind: 'wide', dollars: wide }
          : null,
    right: right as 'call' | 'put',
  };
}

const isCount = (t: Token | undefined): t is Token =>
  t?.kind === 'number' && !t.dollar && /^\d{1,3}$/.test(t.digits);
/** A number with a word behind it, glued or not: `45 days`, `30delta`. */
function counted(
  tokens: readonly Token[],
  i: number,
  ...words: string[]
): { n: number; next: number } | null {
  const t = tokens[i];
  if (!isCount(t)) return null;
  if (words.includes(t.unit.toLowerCase())) return { n: Number(t.digits), next: i + 1 };
  return t.unit === '' && words.includes(tokens[i + 1]?.word ?? '')
    ? { n: Number(t.digits), next: i + 2 }
    : null;
}
const dollars = (t: Token | undefined): string | null =>
  t?.kind === 'number' && t.unit === '' && /^\d{1,5}(\.\d{1,3})?$/.test(t.digits)
    ? String(Number(t.digits))
    : null;

/** How a strike is written from a place on, and what would be expected there. */
function takeStrike(
  tokens: readonly Token[],
  i: number,
  expect: (i: number, word: string) => void,
): { strike: StrikeText; next: number } | null {
  const delta = counted(tokens, i, 'delta', 'deltas');
  if (delta && delta.n >= 1 && delta.n <= 99)
    return { strike: { kind: 'delta', delta: delta.n }, next: delta.next };
  const out = counted(tokens, i, 'out');
  if (out && out.n >= 1) return { strike: { kind: 'out', out: out.n }, next: out.next };
  const money = ['at', 'the', 'money'];
  const said = money.findIndex((w, k) => tokens[i + k]?.word !== w);
  if (said < 0) return { strike: { kind: 'money' }, next: i + money.length };
  if (said > 0) expect(i + said, money[said] as string);
  const strike = dollars(tokens[i]);
  return strike === null || strike === '0' ? null : { strike: { kind: 'strike', strike }, next: i + 1 };
}

function takeOther(
  tokens: readonly Token[],
  i: number,
  expect: (i: number, word: string) => void,
): { other: OptionText['other']; next: number } {
  if (tokens[i]?.text === '/') {
    const strike = dollars(tokens[i + 1]);
    if (strike !== null) return { other: { kind: 'strike', strike }, next: i + 2 };
  }
  const wide = dollars(tokens[i]);
  if (wide !== null && wide !== '0') {
    if (tokens[i + 1]?.word === 'wide') return { other: { kind: 'wide', dollars: wide }, next: i + 2 };
    expect(i + 1, 'wide');
  }
  return { other: null, next: i };
}

const unfit = (
  value: string,
  next: number,
  found: string,
  expected: string,
  flaw: number,
): Taken<string> => ({
  value,
  next,
  flaw,
  finding: { code: 'unfit', found, expected, fixes: [] },
});

const RIGHTS: Readonly<Record<string, 'call' | 'put'>> = {
  call: 'call',
  calls: 'call',
  put: 'put',
  puts: 'put',
};

/** When it expires: `45 days` or a date; null where neither stands. */
function takeExpiry(
  tokens: readonly Token[],
  i: number,
  expect: (i: number, word: string) => void,
): Taken<ExpiryText> | null {
  const days = counted(tokens, i, 'days', 'day');
  if (days) return { value: { kind: 'days', days: days.n }, next: days.next };
  const bare = tokens[i];
  if (isCount(bare) && bare.unit === '') expect(i + 1, 'days');
  const date = bare?.kind === 'date' ? DATE.take(tokens, i, {}, expect) : null;
  return date && { ...date, value: { kind: 'date', date: date.value } };
}

/** The option from its expiry on; null where no expiry stands. */
function takeOption(
  tokens: readonly Token[],
  i: number,
  root: string | null,
  expect: (i: number, word: string) => void,
): Taken<string> | null {
  const when = takeExpiry(tokens, i, expect);
  if (!when) return null;
  if (when.finding) return { ...when, value: root ?? 'X' };
  const { value: expiry, next: from } = when;
  const strike = takeStrike(tokens, from, expect);
  const asFar = root ?? 'X';
  const found = (k: number) => (tokens[k] ? `“${tokens[k]?.text}”` : 'nothing');
  if (!strike) {
    for (const w of ['at the money', '30 delta', '2 out']) expect(from, w);
    return unfit(asFar, from, found(from), 'a strike: 47.50, 30 delta, at the money or 2 out', from);
  }
  const { other, next } = takeOther(tokens, strike.next, expect);
  const right = RIGHTS[tokens[next]?.word ?? ''];
  if (!right) {
    // A bare whole number may yet become the count of another kind of strike.
    const counts = strike.strike.kind === 'strike' && isCount(tokens[from]) && next === from + 1;
    for (const w of ['call', 'put', ...(other ? [] : ['5 wide']), ...(counts ? ['delta', 'out'] : [])])
      expect(next, w);
    return unfit(asFar, next, found(next), 'call or put', next);
  }
  return { value: optionText({ root, expiry, strike: strike.strike, other, right }), next: next + 1 };
}

/** The option as it is written, or with its expiry, strike and right in another order. */
function takenAnyhow(
  tokens: readonly Token[],
  i: number,
  root: string | null,
  expect: (i: number, word: string) => void,
): Taken<string> | null {
  const own = takeOption(tokens, i, root, expect);
  if (own && !own.finding) return own;
  return turned(tokens, i, root) ?? own;
}

const SILENT = (): void => {};
/** Expiry, strike and right in any order; an option without an expiry is told so. Null where it is none. */
function turned(tokens: readonly Token[], i: number, root: string | null): Taken<string> | null {
  let expiry: ExpiryText | null = null;
  let strike: StrikeText | null = null;
  let right: 'call' | 'put' | null = null;
  let next = i;
  for (let k = 0; k < 3; k++) {
    const way: 'call' | 'put' | undefined = RIGHTS[tokens[next]?.word ?? ''];
    const when: Taken<ExpiryText> | null = expiry ? null : takeExpiry(tokens, next, SILENT);
    const at: ReturnType<typeof takeStrike> = strike ? null : takeStrike(tokens, next, SILENT);
    if (way && !right) {
      right = way;
      next++;
    } else if (when && !when.finding) {
      expiry = when.value;
      next = when.next;
    } else if (at) {
      strike = at.strike;
      next = at.next;
    } else break;
  }
  if (!right || !strike) return null;
  const made = (when: ExpiryText) =>
    optionText({ root, expiry: when, strike: strike as StrikeText, other: null, right: right as 'call' });
  if (expiry) return { value: made(expiry), next };
  const found = tokens
    .slice(i, next)
    .map((t) => t.text)
    .join(' ');
  const fixes = [7, 30, 45].map((days) => made({ kind: 'days', days }));
  return { value: root ?? 'X', next, finding: { code: 'no expiry', found, fixes } };
}

/** What is traded: a stock by its symbol, an option or a vertical by expiry, strike and right. Its value is the name, or a text that is worked out when it is read. */
export const INSTRUMENT: Leaf<string> = {
  leaf: 'a symbol in capitals, or an option such as 45 days 30 delta put',
  name: 'SYMBOL',
  role: 'symbol',
  example: 'VULPN',
  starts: [...SYMBOL.starts, '#date', '#number'],
  write(value) {
    const o = readOptionText(value);
    if (!o) return SYMBOL.write(value, {});
    return o.root === null ? value : `${SYMBOL.write(o.root, {})} ${optionText({ ...o, root: null })}`;
  },
  random(r, before) {
    const root = r() < 0.6 ? SYMBOL.random(r, before) : null;
    if (root !== null && r() < 0.5) return root;
    const pick = <T>(...list: T[]): T => list[Math.floor(r() * list.length)] as T;
    const strike = pick<StrikeText>(
      { kind: 'strike', strike: pick('4.5', '47.5', '50', '0.5') },
      { kind: 'delta', delta: 1 + Math.floor(r() * 99) },
      { kind: 'money' },
      { kind: 'out', out: 1 + Math.floor(r() * 9) },
    );
    const other = pick<OptionText['other']>(
      null,
      null,
      { kind: 'wide', dollars: pick('5', '2.5') },
      strike.kind === 'strike' ? { kind: 'strike', strike: pick('55', '42.5') } : null,
    );
    return optionText({
      root,
      expiry: pick<ExpiryText>(
        { kind: 'date', date: '2027-04-16' },
        { kind: 'days', days: 1 + Math.floor(r() * 200) },
      ),
      strike,
      other,
      right: pick('call', 'put'),
    });
  },
  take(tokens, i, before, expect) {
    const rootless = takenAnyhow(tokens, i, null, expect);
    if (rootless) return rootless;
    const symbol = SYMBOL.take(tokens, i, before, expect);
    if (!symbol || symbol.finding) return symbol;
    return takenAnyhow(tokens, symbol.next, symbol.value, expect) ?? symbol;
  },
};
