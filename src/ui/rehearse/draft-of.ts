import { formatTime, MINUTE } from '@/core/units';
import type { KeptRehearsal } from '@/store/rehearsals';
import { useSettings } from '../settings';
import { type Draft, FIRST_DRAFT } from './draft';

/** The terms of a rehearsal as they would be written in the form. */
export function draftOf({ name, terms, days }: KeptRehearsal): Draft {
  const [a, b] = terms.hands;
  const keys = (h: typeof a) => ({
    keys: (h?.presses ?? []).map(({ when, script, most }) => ({ when, script, most: String(most) })),
  });
  const { symbols } = terms;
  const scans = useSettings.getState().scans;
  const time = (minutes: number) => formatTime(minutes * MINUTE, 'minutes');
  const practice = [...new Set(days.flatMap((d) => (d.kind === 'practice' ? [d.id] : [])))];
  const each = days.filter((d) => d.kind === 'practice').length / Math.max(1, practice.length);
  return {
    ...FIRST_DRAFT,
    name,
    first: keys(a),
    second: keys(b ?? a),
    compare: b !== undefined,
    who: symbols.kind,
    ...(symbols.kind === 'scan'
      ? {
          scan: scans.find((s) => s.rule === symbols.rule && s.name === symbols.name)?.id ?? '',
          best: String(symbols.first),
        }
      : { symbol: symbols.symbol }),
    from: time(terms.from),
    to: time(terms.to),
    out: time(terms.out),
    reaction: String(terms.reaction),
    line: String(terms.line),
    practice,
    each: String(Math.max(1, Math.round(each))),
    own: [...new Set(days.flatMap((d) => (d.kind === 'own' ? [d.id] : [])))],
  };
}
