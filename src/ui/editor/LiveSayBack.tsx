'use client';

import { questionText } from '@/core/reading';
import { usePeek } from '../client';
import { inUnits, px, usd } from '../format';
import { Instead } from '../primitives/Instead';

/** The live say-back below an editor; `change`: takes the text that is meant instead. */
export function LiveSayBack({
  text,
  small = false,
  change,
}: {
  text: string;
  small?: boolean;
  change?(text: string): void;
}) {
  const peeked = usePeek(text);
  const f = peeked?.problem === null ? peeked.facts : null;
  return (
    <div className={small ? 'text-[12px]' : 'mt-3'} role="status" aria-label="What it would do now">
      {!small && <h2 className="heading">What it would do now</h2>}
      {peeked?.problem != null && (
        <p className="mt-1">
          Not now: {peeked.problem}
          {change && peeked.lasting && <Instead texts={peeked.fixes} take={change} />}
        </p>
      )}
      {peeked?.problem === null &&
        peeked.asks.map((q) => (
          <p key={questionText(q)} className="mt-1">
            <span className="font-semibold">It asks: {questionText(q)}</span>
            {change && 'instead' in q && <Instead texts={q.instead} take={change} />}
          </p>
        ))}
      {peeked?.problem === null &&
        peeked.sayBack.map((line, k) => (
          <p
            key={`${k} ${line}`}
            className={`num mt-1 whitespace-pre-wrap ${small ? '' : 'text-[15px]'}`}
            data-testid="say-back-line"
          >
            {line}
            {peeked.about[k] && <span className="text-quiet"> ({peeked.about[k]})</span>}
            {peeked.guesses[k] && <span className="text-quiet"> if the lines before it go as expected</span>}
          </p>
        ))}
      {peeked?.problem === null && peeked.named.length > 0 && (
        <p className="num text-quiet">{peeked.named.map((n) => `${px(n.price)} = ${n.text}`).join(' · ')}</p>
      )}
      {f && (
        <p className="mt-1 text-quiet">
          {f.qty} shares at {px(f.price)} · cost {usd(f.cost)}
          {f.risk !== null && ` · risk ${usd(f.risk)}${f.units === null ? '' : `, ${inUnits(f.units)}`}`} ·
          costs {usd(f.costs)}
          {f.targets.length > 0 && ` · net at targets ${f.targets.map((t) => usd(t.net, true)).join(', ')}`}
          {f.power && ` · power used ${usd(f.power.used)}, left ${usd(f.power.left)}`}
        </p>
      )}
      {peeked?.warnings.map((w) => (
        <p key={w} className="mt-1 font-semibold">
          ⚠ {w}
        </p>
      ))}
    </div>
  );
}
