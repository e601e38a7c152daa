// Why a reading stopped where it did, and what might mend it.
import { formOf, KINDS } from './forms/index.ts';
import type { Leaf } from './grammar.ts';
import { IDLE } from './law.ts';
import { nearestWord } from './nearest.ts';
import { openings } from './openings.ts';
import type { Fix, Problem } from './problems.ts';
import { beginningsOf } from './rules.ts';
import { SLOTS, type Slot } from './slots.ts';
import { type Token, tokenize } from './tokens.ts';
import { choicesAt, type Walk, walk } from './walk.ts';

/** What other people call things, the longest first. */
const BORROWED: readonly { words: readonly string[]; ours: string }[] = KINDS.flatMap((kind) =>
  Object.entries(formOf(kind).aka ?? {}),
)
  .flatMap(([theirs, ours]) => [ours].flat().map((x) => ({ words: theirs.split(' '), ours: x })))
  .sort((a, b) => b.words.length - a.words.length);

const MOST_TRIED = 12;
/** Letters of a word that is like many others. */
const SHORT = 5;

/** Words around a place that mean something of ours which fits there, and where they stand; each of what they may mean. */
function borrowedAt({ tokens, far }: Walk, fits: (f: Fix) => boolean): Fix[] {
  for (const { words } of BORROWED) {
    for (let k = Math.max(0, far - words.length + 1); k <= far; k++) {
      const [first, last] = [tokens[k], tokens[k + words.length - 1]];
      if (!first || !last || !words.every((x, n) => tokens[k + n]?.word === x)) continue;
      const said = words.join(' ');
      const fixes = BORROWED.filter((b) => b.words.join(' ') === said).map(
        ({ ours }): Fix => ({ from: first.from, to: last.to, text: ours, declared: true }),
      );
      // What may go either way goes first the way on which such an order is a stop.
      const way = BEYOND[tokens[0]?.word ?? ''];
      const fitting = fixes.filter(fits).sort((a, b) => Number(b.text === way) - Number(a.text === way));
      if (fitting.length > 0) return fitting;
    }
  }
  return [];
}

/** Whether a sentence with a fix in it is read as far as the fix and so many words beyond. */
function readsOn(w: Walk, text: string, slots: readonly Slot[], fix: Fix, beyond: number): boolean {
  const from = (w.tokens[0] as Token).from;
  const to = (w.tokens[w.tokens.length - 1] as Token).to;
  const tokens = tokenize(text.slice(from, fix.from) + fix.text + text.slice(fix.to, to));
  const rest = tokens.filter((t) => t.from >= fix.from - from + fix.text.length).length;
  return slots.some((slot) => walk(slot, tokens).walk.far >= tokens.length - Math.max(0, rest - beyond));
}

/**
 * Why a reading stopped where it did: what was found there, what was expected (`ends`: it could have
 * ended), and what might mend it, the likeliest first.
 */
export function stopped(w: Walk, text: string, whole: readonly Slot[], ends: boolean): Problem {
  const t = w.tokens[w.far];
  const before = w.tokens[w.far - 1];
  const slots = w.hopes.flatMap((h) => ('slot' in h ? [h.slot] : []));
  const leaves = w.hopes.flatMap((h) => ('leaf' in h ? [h.leaf] : []));
  // Of which symbol may be said in many places; what else may stand there tells more.
  const words = [...new Set(w.hopes.flatMap((h) => ('word' in h ? [h.word] : [])))].sort(
    (a, b) => Number(a === 'of') - Number(b === 'of'),
  );
  const expected = expectedText(slots, leaves, words, w.far === 0 ? whole : [], ends);
  if (!t) {
    const to = before?.to ?? 0;
    // Behind a comma stands what is to be done: the colon takes its place.
    const comma = /^ *,/.exec(text.slice(to))?.[0].length ?? 0;
    const adding = words.map(
      (x): Fix => ({
        from: to,
        to: x === ':' ? to + comma : to,
        text: before && !/^[):]$/.test(x) ? ` ${x}` : x,
      }),
    );
    // An order without its price.
    if (slots.includes('pricing'))
      adding.unshift({ from: to, to, text: ' at usual through', declared: true });
    // A close without its size.
    if (slots.includes('close size') && whole.includes('statement'))
      adding.unshift({ from: to, to, text: ' all', declared: true });
    const span = { from: before?.from ?? 0, to };
    return { code: 'missing', expected, after: before?.text ?? null, span, fixes: adding };
  }
  const span = { from: t.from, to: t.to };
  if (t.text === '"') {
    const end = (w.tokens[w.tokens.length - 1] as Token).to;
    return { code: 'open quote', span, fixes: [{ from: end, to: end, text: '"' }] };
  }
  const borrowed = borrowedAt(w, (f) => readsOn(w, text, whole, f, f.to - f.from < SHORT ? 1 : 0));
  if (borrowed[0]) {
    const { from, to } = borrowed[0];
    const nearest = borrowed.map((b) => b.text).join('” or “');
    return {
      code: 'unknown word',
      word: text.slice(from, to),
      nearest,
      expected,
      span: { from, to },
      fixes: borrowed,
    };
  }
  if (t.kind !== 'word') {
    const found = t.kind === 'text' ? `“${t.text}”` : t.text;
    return { code: 'unfit', found, expected, span, fixes: remediesAt(w, text, whole, ends) };
  }
  const known = choicesAt(w).filter((k) => !/^[0-9]/.test(k));
  const firsts = [...new Set(known.flatMap((k) => k.split(' ').slice(0, 1)))];
  // A short word is near to many: of those, one after which the next word reads, too.
  const fits = (x: string | null) =>
    x !== null && readsOn(w, text, whole, { ...span, text: x }, t.text.length < SHORT ? 1 : 0);
  const nearest = [nearestWord(t.text, known), nearestWord(t.text, firsts)].find(fits) ?? null;
  // A level by its bare name.
  const level = w.hopes.some((h) => 'slot' in h && (h.slot === 'price' || h.slot === 'base'));
  const loosely = borrowedAt(w, () => true);
  const fixes = [
    ...loosely,
    ...(nearest ? [{ ...span, text: nearest }] : []),
    ...remediesAt(w, text, whole, ends),
    ...(level && /^[a-z]+$/.test(t.text) ? [{ ...span, text: `level "${t.text}"` }] : []),
  ];
  return { code: 'unknown word', word: t.text, nearest, expected, span, fixes };
}

/** What may mend a sentence that stops at a token which nothing there is like. */
function remediesAt(w: Walk, text: string, whole: readonly Slot[], ends: boolean): Fix[] {
  const t = w.tokens[w.far] as Token;
  const before = w.tokens[w.far - 1];
  const last = w.tokens[w.tokens.length - 1] as Token;
  const slots = w.hopes.flatMap((h) => ('slot' in h ? [h.slot] : []));
  const words = w.hopes.flatMap((h) => ('word' in h ? [h.word] : []));
  // An exit on the line of its order: a comma before it.
  const exit = ends && before && (t.text === ';' || beginningsOf('exit').has(t.word));
  if (exit)
    return [
      ...reworded(w, text, whole),
      { from: before.to, to: t.text === ';' ? t.to : before.to, text: ',' },
    ];
  // Conditions side by side: all of them are meant to hold.
  if (t.text === ',' && before && words.includes('and')) return [{ from: before.to, to: t.to, text: ' and' }];
  // A name without its quotes: all that is left, or one word.
  const named = t.kind === 'word' && w.hopes.some((h) => 'leaf' in h && h.leaf.starts.includes('#text'));
  const quoted = named
    ? [last.to, t.to].map((to) => ({ from: t.from, to, text: `"${text.slice(t.from, to)}"` }))
    : [];
  const idle = w.tokens.find((x) => IDLE.has(x.word) && x.kind === 'word');
  const after = idle && w.tokens[w.tokens.indexOf(idle) + 1];
  const leading = [...words, ...(w.far === 0 ? [] : slots.flatMap((x) => openings(x)))]
    .filter((x) => x !== '+' && x !== '-')
    .slice(0, MOST_TRIED);
  return [
    ...reworded(w, text, whole),
    ...quoted,
    ...(idle ? [{ from: idle.from, to: after?.from ?? idle.to, text: '' }] : []),
    ...leading.map((x) =>
      x === ':' && before
        ? { from: before.to, to: t.text === ',' ? t.to : before.to, text: x }
        : { from: t.from, to: t.from, text: `${x} ` },
    ),
  ];
}

/** What a sentence says that is said in another order here, or on lines of its own. */
function reworded({ tokens, far }: Walk, text: string, whole: readonly Slot[]): Fix[] {
  const [first, before, t, next] = [tokens[0], tokens[far - 1], tokens[far], tokens[far + 1]];
  // A condition has no lines and no orders.
  if (!first || !before || !t || whole.every((x) => x === 'condition')) return [];
  const exit = exitBehind(tokens, far);
  if (exit) return [exit];
  // Two things to do, one after another.
  const at = JOINING.has(t.word) ? far : JOINING.has(before.word) ? far - 1 : 0;
  const [then, last] = [tokens[at + 1], tokens[at - 1]];
  // An order without its price, and what it waits for.
  if ((t.word === 'when' || t.word === 'if') && next && (first.word === 'buy' || first.word === 'short')) {
    const end = (tokens[tokens.length - 1] as Token).to;
    const order = `${text.slice(first.from, before.to)} at usual through`;
    return [
      { from: first.from, to: end, text: `when ${text.slice(next.from, end)}: ${order}`, declared: true },
    ];
  }
  if (at > 0 && then && last) return [oneByOne(tokens, at, last, then, text)];
  // A symbol before the size.
  if (far === 1 && next && t.kind === 'word' && t.text === t.text.toUpperCase())
    return [{ from: t.from, to: next.to, text: `${next.text} of ${t.text}` }];
  const stop = stopAt(tokens, far);
  return stop ? [stop] : [];
}

/** A stop goes beyond the market: of a close on the side that it closes on, of an entry on the side that it enters on. */
const BEYOND: Readonly<Record<string, string>> = {
  sell: 'below',
  short: 'below',
  cover: 'above',
  buy: 'above',
};
function stopAt(tokens: readonly Token[], far: number): Fix | null {
  const way = BEYOND[tokens[0]?.word ?? ''];
  const [lead, before, t, next] = [tokens[far - 2], tokens[far - 1], tokens[far], tokens[far + 1]];
  if (!way || !before || !t) return null;
  // At stop 9.60: the name of the stop’s own price, with a number behind it.
  if (before.word === 'stop' && lead?.word === 'at' && t.kind === 'number')
    return { from: lead.from, to: before.to, text: way, declared: true };
  if (t.word === 'stop' && next)
    return { from: t.from, to: next.word === 'at' ? next.to : t.to, text: way, declared: true };
  // If below 9.60.
  return t.word === 'if' && next?.word === way
    ? { from: t.from, to: next.from, text: '', declared: true }
    : null;
}

/** Words that join what is done one after another. */
const JOINING: ReadonlySet<string> = new Set(['and', 'then', ';']);

/** Two things to do on lines of their own; those that wait together, on lines under what they wait for. */
function oneByOne(tokens: readonly Token[], at: number, last: Token, then: Token, text: string): Fix {
  const colon = tokens.findIndex((t, k) => t.text === ':' && k < at);
  const first = tokens[colon + 1];
  // What is waited for, and then what is done.
  if (colon < 0 && tokens[0]?.word === 'when') return { from: last.to, to: then.from, text: ': ' };
  return colon < 0 || !first
    ? { from: last.to, to: then.from, text: '\n' }
    : {
        from: (tokens[colon] as Token).to,
        to: then.from,
        text: `\n  ${text.slice(first.from, last.to)}\n  `,
      };
}

/** An exit joined to its order by words: a comma does it. */
function exitBehind(tokens: readonly Token[], far: number): Fix | null {
  const joins = (t: Token | undefined) =>
    t !== undefined && (t.word === 'with' || JOINING.has(t.word) || IDLE.has(t.word));
  let [from, to] = [far, far];
  while (from > 1 && joins(tokens[from - 1])) from--;
  while (joins(tokens[to])) to++;
  const [before, exit] = [tokens[from - 1], tokens[to]];
  if (from === to || !before || !exit || !beginningsOf('exit').has(exit.word)) return null;
  return { from: before.to, to: exit.from, text: ', ' };
}

function expectedText(
  slots: readonly Slot[],
  leaves: readonly Leaf<never>[],
  words: readonly string[],
  whole: readonly Slot[],
  ends: boolean,
): string {
  if (whole.length > 0) return whole.map((s) => SLOTS[s].says).join(', or ');
  const parts = [...new Set([...slots.map((s) => SLOTS[s].says), ...leaves.map((l) => l.leaf)])].slice(0, 2);
  const list = [
    ...(words.includes(':') ? ['“:” and what to do then'] : []),
    ...parts,
    ...(parts.length < 2
      ? words.flatMap((x) => (parts.some((p) => p.includes(x)) ? [] : [`“${x}”`])).slice(0, 6)
      : []),
    ...(ends ? ['the end'] : []),
  ];
  return list.length === 0 ? 'nothing more' : list.join(', or ');
}
