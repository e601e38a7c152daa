import type { PageTrade, ReviewPage } from '../review/index.ts';
import { formatMoney, formatTime, signed } from '../units/index.ts';

const money = (x: number): string => formatMoney(Math.round(x), true);
const inR = (x: number | null): string => (x === null || !Number.isFinite(x) ? '–' : signed(x, 2, 'R'));
const trades = (n: number): string => `${n} ${n === 1 ? 'trade' : 'trades'}`;

/** Text that Markdown would read as its own. */
const plain = (text: string): string => text.replaceAll(/[\\`*_[\]<>|#]/g, '\\$&').replaceAll(/\s+/g, ' ');

/** The page of a day or a week as Markdown, with the trader's own words at its end. */
export function pageMarkdown(p: ReviewPage, title: string, words: string): string {
  const line = (t: PageTrade) =>
    `${t.date} ${formatTime(t.opened, 'minutes')} ${plain(t.name)}: ${money(t.net)}, ${inR(t.r)}`;
  const list = (items: readonly string[]) => (items.length === 0 ? ['None.'] : items.map((x) => `- ${x}`));
  const said = (x: { symbol: string; grade?: string; note?: string }) =>
    [plain(x.symbol), x.grade && `grade ${x.grade}`, x.note && plain(x.note)].filter(Boolean).join(', ');
  const f = p.figures;
  return [
    `# ${title}`,
    '',
    `${trades(f.trades)}, net ${money(f.net)} after ${formatMoney(Math.round(f.costs))} costs, ${inR(f.withRisk === 0 ? null : f.r)}, won ${f.won} of ${f.trades}.`,
    '',
    '## Planned and taken',
    ...list(p.taken.map((x) => `${said(x)}: ${trades(x.trades)}, ${money(x.net)}, ${inR(x.r)}`)),
    '',
    '## Planned and left',
    ...list(p.left.map(said)),
    '',
    '## Taken, not on the shortlist',
    ...list(p.unplanned.map((x) => `${said(x)}: ${trades(x.trades)}, ${money(x.net)}, ${inR(x.r)}`)),
    '',
    '## Rules',
    `Kept ${p.kept}, broken ${p.broken}, not said ${f.trades - p.kept - p.broken}.`,
    ...p.rules.map((r) => `- ${plain(r.rule)}: ${r.times} times`),
    '',
    '## Best and worst',
    `Best: ${p.best ? line(p.best) : 'none'}`,
    '',
    `Worst: ${p.worst ? line(p.worst) : 'none'}`,
    '',
    '## Leaving early',
    p.early.trades === 0
      ? 'No plan was touched, as far as it is known.'
      : `${p.early.trades} trades touched by hand: ${money(-p.early.cost)}, ${inR(-p.early.costR)} beside their plans.`,
    '',
    '## Trades',
    ...list(
      p.trades.map((t) =>
        [
          line(t),
          t.setup && plain(t.setup),
          t.kept === null ? '' : t.kept ? 'plan kept' : `plan broken${t.broke && `: ${plain(t.broke)}`}`,
          t.words && plain(t.words),
        ]
          .filter(Boolean)
          .join('; '),
      ),
    ),
    '',
    '## In my words',
    words.trim() === '' ? '–' : words.trim(),
    '',
  ].join('\n');
}
