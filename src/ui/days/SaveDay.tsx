'use client';

import { barsCsv, printsCsv } from '@/core/formats';
import { ask, useSession } from '../client';
import { download } from '../download';

/** The day so far as files that the import reads back. */
export function SaveDay() {
  const symbol = useSession((s) => s.focus?.symbol);
  const save = async (what: 'bars' | 'prints') => {
    if (!symbol) return;
    const answer = await ask({ kind: 'history', symbol, what });
    if (!answer) return;
    const text =
      what === 'bars' ? barsCsv(answer.date, symbol, answer.bars) : printsCsv(answer.date, answer.prints);
    download(`${symbol}-${answer.date}-${what}.csv`, 'text/csv', text);
  };
  return (
    <section className="panel flex shrink-0 items-center gap-2 px-3 py-2" aria-label="Save this day">
      <h2 className="heading grow">Save this day of {symbol ?? '–'} so far</h2>
      <button type="button" className="btn" disabled={!symbol} onClick={() => void save('bars')}>
        1-minute bars as CSV
      </button>
      <button type="button" className="btn" disabled={!symbol} onClick={() => void save('prints')}>
        Prints as CSV
      </button>
    </section>
  );
}
