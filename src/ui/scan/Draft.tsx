'use client';

import { useState } from 'react';
import { LANGUAGE_VERSION } from '@/core/language';
import { bound, keyOf, onRack, scriptAt } from '@/store/keys';
import type { Sheet } from '@/worker/session/sheet';
import { act, usePeek, useSession } from '../client';
import { ScriptEditor } from '../editor/ScriptEditor';
import { inUnits, px, usd } from '../format';
import { chordName } from '../hands/chords';
import { useSettings } from '../settings';

type Way = 'long' | 'short';

const DRAFTS_KEPT = 300;
const DIGITS = ['Digit1', 'Digit2', 'Digit3', 'Digit4', 'Digit5', 'Digit6', 'Digit7', 'Digit8', 'Digit9'];

/** The trade that a candidate suggests, as a sentence to be changed; what it would do now; to be staged or put on a key. */
export function Draft({ symbol, drafts }: { symbol: string; drafts: Sheet['drafts'] | null }) {
  const [way, setWay] = useState<Way>(() =>
    (useSession.getState().focus?.change ?? 0) >= 0 ? 'long' : 'short',
  );
  const key = `${useSession((s) => s.clock?.date ?? '')} ${symbol} ${way}`;
  const drafted = useSettings((s) => s.drafts);
  const typed = drafted.find((d) => d.key === key)?.text ?? null;
  const text = typed ?? drafts?.[way] ?? '';
  const peeked = usePeek(text);
  const [put, setPut] = useState('');
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const choose = (w: Way) => {
    setWay(w);
    setPut('');
  };
  const onKey = () => {
    const settings = useSettings.getState();
    const name = `${symbol} ${way}`;
    const id = `draft-${symbol}-${way}`;
    const at = keyOf(settings, id) || (DIGITS.find((d) => !scriptAt(settings, d)) ?? '');
    set({
      scripts: [
        ...scripts.filter((s) => s.id !== id),
        { id, name, text, language: LANGUAGE_VERSION, tags: ['drafts'] },
      ],
      ...bound(settings, id, at),
      ...onRack(settings, id, true),
    });
    setPut(
      at
        ? `On key ${chordName(at)} and on the rack as “${name}”.`
        : `On the rack as “${name}”; all number keys are taken, choose one in Keys.`,
    );
  };
  const f = peeked?.facts;
  return (
    <section className="mt-3" aria-label="Draft of the trade">
      <div className="flex items-center gap-1">
        <h3 className="heading mr-2">Draft</h3>
        {(['long', 'short'] as const).map((w) => (
          <button
            key={w}
            type="button"
            className="btn px-2 py-0"
            aria-pressed={way === w}
            onClick={() => choose(w)}
          >
            {w}
          </button>
        ))}
        {typed !== null && (
          <button
            type="button"
            className="ml-auto text-quiet underline"
            onClick={() => set({ drafts: drafted.filter((d) => d.key !== key) })}
          >
            as suggested
          </button>
        )}
      </div>
      <div className="mt-1 h-[104px] text-[12px]">
        <ScriptEditor
          small
          label={`Draft of a ${way} trade in ${symbol}`}
          placeholder={
            drafts
              ? 'No 15 minutes before the open have finished with a trade yet, so there is nothing to lean on. Write your own: buy risk 1R above 5.40 …'
              : ''
          }
          value={text}
          change={(t) =>
            set({ drafts: [...drafted.filter((d) => d.key !== key), { key, text: t }].slice(-DRAFTS_KEPT) })
          }
        />
      </div>
      <p className="min-h-9 text-[12px]" role="status">
        {peeked?.problem ? (
          <>⚠ {peeked.problem}</>
        ) : (
          f && (
            <>
              Now: <span className="num">{f.qty}</span> shares at <span className="num">{px(f.price)}</span>,
              stop <span className="num">{px(f.stop)}</span>, risk{' '}
              <span className="num">
                {f.risk === null ? '–' : usd(f.risk)}
                {f.units !== null && `, ${inUnits(f.units)}`}
              </span>
              , cost <span className="num">{usd(f.cost)}</span>
            </>
          )
        )}
      </p>
      <div className="flex gap-1">
        <button
          type="button"
          className="btn px-2 py-0.5 whitespace-nowrap"
          disabled={!peeked || peeked.problem !== null}
          onClick={() => void act(`stage ${text.replace(/^\s*stage\s+/, '')}`, 'buttons', 'Draft')}
        >
          Stage it
        </button>
        <button
          type="button"
          className="btn px-2 py-0.5 whitespace-nowrap"
          disabled={text.trim() === ''}
          onClick={onKey}
        >
          Put it on a key
        </button>
        <span className="ml-1 text-quiet" role="status">
          {put}
        </span>
      </div>
    </section>
  );
}
