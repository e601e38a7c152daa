import { useMemo } from 'react';
import { differenceOf } from '@/core/rehearsal';
import type { Results } from '@/store/rehearsal-results';
import { signed } from '../format';

/** Which of two hands is better on the same days, and how sure that is. */
export function Comparison({ results }: { results: Results }) {
  const d = useMemo(
    () => differenceOf(results.hands[1] ?? [], results.hands[0] ?? [], results.days.length),
    [results],
  );
  const r = (x: number) => signed(x, 2, 'R');
  const { interval } = d;
  const sure = interval !== null && (interval.low > 0 || interval.high < 0);
  const better = d.mean > 0 ? 'B' : 'A';
  const verdict =
    d.mean === 0
      ? 'A and B came to the same.'
      : interval === null
        ? `${better} made more so far; there are too few days to say how sure that is.`
        : sure
          ? `${better} is better, and these days are enough to say so.`
          : `${better} made more, but these days do not tell them apart.`;
  const more =
    !sure && d.needs !== null && d.needs > results.days.length
      ? d.needs > 1_000_000
        ? ' No number of days that anybody would run would.'
        : ` About ${d.needs.toLocaleString('en-US')} days would, if it goes on like this.`
      : '';
  return (
    <p
      className="mt-1.5 w-0 min-w-full border-line border-t pt-1.5"
      role="status"
      aria-label="Which is better"
    >
      <b>{verdict}</b>
      {more} B less A <b className="num">{Number.isNaN(d.mean) ? '–' : r(d.mean)}</b> a day
      {interval && (
        <>
          , 19 of 20 between <span className="num">{r(interval.low)}</span> and{' '}
          <span className="num">{r(interval.high)}</span>
        </>
      )}
      , day by day on the same days.
    </p>
  );
}
