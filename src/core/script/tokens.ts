/** One token. `word` is lower case except for symbols in capitals, which keep theirs in `text`. */
export interface Token {
  kind: 'word' | 'number' | 'money' | 'sign' | 'line end' | 'comment' | 'unknown';
  text: string;
  /** For a number: its value; a suffix of k or M is already applied. */
  value: number;
  /** For a number: what is glued to it (`c`, `%`, `R`, `m`), or ''. */
  suffix: string;
  from: number;
  to: number;
}

const PATTERN =
  /(?<space>[ \t\r]+)|(?<comment>#[^\n]*)|(?<end>\n)|(?<money>\$\d[\d,]*(?:\.\d+)?)|(?<number>(?:\d{1,3}(?:,\d{3})+|\d+)(?:\.\d+)?|\.\d+)(?<suffix>c\b|%|R\b|r\b|m\b|M\b|k\b|K\b|x\b)?|(?<word>[A-Za-z][A-Za-z_]*)|(?<sign>>=|<=|[-+>#<():,])|(?<unknown>.)/gy;

/** Splits a script into tokens; never fails: what it does not know is a token of its own. */
export function tokenize(text: string): Token[] {
  const out: Token[] = [];
  for (const m of text.matchAll(PATTERN)) {
    const g = m.groups as Record<string, string | undefined>;
    const from = m.index;
    const to = from + m[0].length;
    const push = (kind: Token['kind'], value = 0, suffix = '') => out.push({ kind, text: m[0], value, suffix, from, to });
    if (g.space !== undefined) continue;
    if (g.comment !== undefined) push('comment');
    else if (g.end !== undefined) push('line end');
    else if (g.money !== undefined) push('money', Number(g.money.slice(1).replaceAll(',', '')));
    else if (g.number !== undefined) {
      const raw = Number(g.number.replaceAll(',', ''));
      const s = g.suffix ?? '';
      if (s === 'k' || s === 'K') push('number', raw * 1_000);
      else if (s === 'M') push('number', raw * 1_000_000);
      else push('number', raw, s === 'r' ? 'R' : s);
    } else if (g.word !== undefined) push('word');
    else if (g.sign !== undefined) push('sign');
    else push('unknown');
  }
  return out;
}
