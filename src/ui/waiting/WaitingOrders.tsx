'use client';

import { Hourglass } from 'lucide-react';
import { useState } from 'react';
import { rootOf } from '@/core/instruments';
import { oneLine } from '@/core/language';
import type { WaitingNow } from '@/worker/session/slices';
import { act, focusOn, useSession } from '../client';
import { ScriptEditor } from '../editor/ScriptEditor';
import { clock } from '../format';
import { Pop } from '../primitives/Pop';

/** Orders that wait for a condition, from every view. */
export function WaitingOrders() {
  const count = useSession((s) => s.waits?.waiting.length ?? 0);
  return (
    <Pop
      title={count === 0 ? 'Waiting orders: none' : `Waiting orders: ${count}`}
      className={`btn num flex w-[46px] items-center justify-center gap-1.5 ${count > 0 ? 'font-bold text-condition' : 'text-quiet'}`}
      label={
        <>
          <Hourglass size={14} aria-hidden /> {count}
        </>
      }
    >
      <div className="w-[600px] p-3">
        <WaitingList />
      </div>
    </Pop>
  );
}

/** What waits, the nearest first, each with how far it is; and what has become of those before. */
export function WaitingList() {
  const waits = useSession((s) => s.waits);
  const ended = [...(waits?.ended ?? [])].reverse();
  if (!waits) return <p className="text-quiet">Looking at what waits …</p>;
  return (
    <div className="text-[13px]">
      {waits.waiting.length === 0 && (
        <p className="text-quiet">
          Nothing waits for a condition. A sentence such as{' '}
          <code className="num">when last &gt;= 5.60: buy 100 at ask + 2c</code> waits here until it fires.
        </p>
      )}
      <ul className="grid gap-2" aria-label="Waiting orders">
        {waits.waiting.map((w) => (
          <One key={w.id} w={w} />
        ))}
      </ul>
      {ended.length > 0 && (
        <>
          <h3 className="heading mt-3">Ended</h3>
          <ul className="grid max-h-[180px] gap-1 overflow-y-auto" aria-label="Ended waiting orders">
            {ended.map((x) => (
              <li key={x.seq} className="grid grid-cols-[64px_72px_1fr] gap-2">
                <span className="num text-quiet">{clock(x.at)}</span>
                <span
                  className={
                    x.how === 'refused'
                      ? 'font-semibold text-down'
                      : x.how === 'fired'
                        ? 'text-condition'
                        : 'text-quiet'
                  }
                >
                  {x.how === 'refused' ? '⚠ refused' : x.how}
                </span>
                <span>
                  <code className="num">{oneLine(x.text)}</code>
                  {x.seen && <span className="text-quiet"> · saw {x.seen}</span>}
                  {x.how === 'refused' && <span> · {x.came}</span>}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function One({ w }: { w: WaitingNow }) {
  const focus = useSession((s) => s.focus?.symbol);
  const [draft, setDraft] = useState<string | null>(null);
  /** The new one is set before the old one goes: one that cannot be leaves the old one as it is. */
  const save = async (text: string) => {
    if ((await act(`${text}\ncancel condition ${w.id}`, 'buttons', 'Waiting')) === 'sent') setDraft(null);
  };
  return (
    <li className="grid grid-cols-[64px_1fr_auto] items-start gap-2 border-b border-line pb-2 last:border-0">
      <span>
        <button
          type="button"
          className={`num text-left font-bold ${rootOf(w.symbol) === focus ? 'text-focus' : ''}`}
          onClick={() => void focusOn(rootOf(w.symbol))}
        >
          {rootOf(w.symbol)}
        </button>
        <span className="num block text-quiet">{w.id}</span>
      </span>
      <span className="min-w-0">
        {draft === null ? (
          <code className="num block">{oneLine(w.text)}</code>
        ) : (
          <span className="mb-1 block h-[84px]">
            <ScriptEditor
              label={`Condition ${w.id}`}
              small
              value={draft}
              change={setDraft}
              submit={(text) => void save(text)}
            />
          </span>
        )}
        <span className="mt-0.5 flex items-center gap-2">
          <span className="h-1.5 w-[90px] shrink-0 border border-condition" aria-hidden>
            <span
              className="block h-full bg-condition"
              style={{ width: `${Math.round((w.way ?? 0) * 100)}%` }}
            />
          </span>
          <span className="num">{w.paused ? `paused · ${w.near}` : w.near}</span>
        </span>
        <span className="text-quiet">
          {w.until === null ? 'until cancelled' : `until ${clock(w.until, 'minutes')}`}
        </span>
      </span>
      {draft !== null && (
        <span className="flex gap-1">
          <button type="button" className="btn px-2 py-0.5 text-focus" onClick={() => void save(draft)}>
            Save
          </button>
          <button type="button" className="btn px-2 py-0.5" onClick={() => setDraft(null)}>
            Leave
          </button>
        </span>
      )}
      <span className={draft === null ? 'flex gap-1' : 'hidden'}>
        <button
          type="button"
          className="btn px-2 py-0.5"
          onClick={() => void act(`${w.paused ? 'resume' : 'pause'} condition ${w.id}`, 'buttons', 'Waiting')}
        >
          {w.paused ? 'Resume' : 'Pause'}
        </button>
        <button type="button" className="btn px-2 py-0.5" onClick={() => setDraft(w.text)}>
          Edit
        </button>
        <button
          type="button"
          className="btn px-2 py-0.5"
          onClick={() => void act(`cancel condition ${w.id}`, 'buttons', 'Waiting')}
        >
          Cancel
        </button>
      </span>
    </li>
  );
}
