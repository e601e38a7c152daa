/** One token, with its place in the text. */
export interface Token {
  kind: 'word' | 'number' | 'text' | 'time' | 'date' | 'sign' | 'line end' | 'comment' | 'unknown';
  /** As written; typographic signs as what they look like. */
  text: string;
  /** A word in lower case; anything else as `text`. */
  word: string;
  /** Of a number: with a dollar sign in front. */
  dollar: boolean;
  /** Of a number: its digits with separators. */
  digits: string;
  /** Of a number: the letters or percent sign glued to it. */
  unit: string;
  from: number;
  to: number;
}

const LOOKS_LIKE: Readonly<Record<string, string>> = {
  '–': '-',
  '—': '-',
  '−': '-',
  '×': 'x',
  '“': '"',
  '”': '"',
  '„': '"',
  '’': "'",
  '\u00a0': ' ',
  '\u2009': ' ',
  '\u202f': ' ',
};
const TYPOGRAPHIC = new RegExp(`[${Object.keys(LOOKS_LIKE).join('')}]`, 'g');

const PATTERN = new RegExp(
  [
    '(?<space>[ \\t\\r]+)',
    '(?<comment>#[^\\n]*)',
    '(?<end>\\n)',
    '"(?<text>[^"\\n]*)"',
    '(?<date>\\d{4}-\\d{1,2}-\\d{1,2})\\b',
    '(?<time>\\d{1,2}:\\d{2}(?::\\d{2})?)(?![0-9_B-LN-OQ-Zb-ln-oq-z])',
    '(?<dollar>\\$ ?)?(?<digits>\\d(?:,?\\d)*(?:\\.\\d+)?|\\.\\d+)(?<unit>%|[A-Za-z]+)?',
    "(?<word>[A-Za-z][A-Za-z0-9_]*'?)",
    '(?<sign>>=|<=|=>|=<|&&|[-+><≥≤():,/])',
    '(?<unknown>.)',
  ].join('|'),
  'guy',
);

/** Signs that are written otherwise elsewhere. */
const MEANS: Readonly<Record<string, string>> = { '≥': '>=', '≤': '<=', '=>': '>=', '=<': '<=', '&&': 'and' };

/** Splits a text into tokens; never fails: what it does not know is a token of its own, a whole sign even where it takes two places. */
export function tokenize(text: string): Token[] {
  const out: Token[] = [];
  // Names in quotes keep their signs, so they are cut from the text itself.
  const plain = TYPOGRAPHIC.test(text) ? text.replace(TYPOGRAPHIC, (c) => LOOKS_LIKE[c] ?? c) : text;
  TYPOGRAPHIC.lastIndex = 0;
  for (const m of plain.matchAll(PATTERN)) {
    const g = m.groups as Record<string, string | undefined>;
    if (g.space !== undefined) continue;
    const from = m.index;
    const to = from + m[0].length;
    const token = {
      kind: kindOf(g),
      text: m[0],
      word: m[0],
      dollar: g.dollar !== undefined,
      digits: g.digits ?? '',
      unit: g.unit ?? '',
      from,
      to,
    };
    if (token.kind === 'word') token.word = m[0].toLowerCase();
    token.word = MEANS[token.text] ?? token.word;
    if (g.text !== undefined) token.text = text.slice(from + 1, to - 1);
    out.push(token);
  }
  return out;
}

function kindOf(g: Record<string, string | undefined>): Token['kind'] {
  if (g.word !== undefined) return 'word';
  if (g.digits !== undefined) return 'number';
  if (g.sign !== undefined) return 'sign';
  if (g.end !== undefined) return 'line end';
  if (g.comment !== undefined) return 'comment';
  if (g.text !== undefined) return 'text';
  if (g.time !== undefined) return 'time';
  return g.date !== undefined ? 'date' : 'unknown';
}
