'use client';

import { Hand } from 'lucide-react';
import { useEffect } from 'react';
import { keysInUse } from '@/store/keys';
import { px } from '../format';
import { chordName } from '../keys/chords';
import { Pop } from '../primitives/Pop';
import { act, ask, focusOn, useSession, watch } from '../session';
import { useSettings } from '../settings';

/** The key whose script stages this order. */
function useKeyOf(): (text: string, symbol: string) => string {
  const scripts = useSettings((s) => s.scripts);
  const keys = useSettings((s) => keysInUse(s).keys);
  return (text, symbol) => {
    const plain = `stage ${text}`.replace(` of ${symbol}`, '');
    const key = keys.find(
      (k) =>
        scripts
          .find((s) => s.id === k.script)
          ?.text.trim()
          .replace(` of ${symbol}`, '') === plain,
    );
    return key ? chordName(key.chord) : '';
  };
}

/** What is staged, for all symbols, with its numbers as they are now; one press sends or drops each. */
export function StagedOrders() {
  const staged = useSession((s) => s.desk?.staged);
  const peeks = useSession((s) => s.staged);
  const focus = useSession((s) => s.focus?.symbol);
  const keyOf = useKeyOf();
  useEffect(() => {
    void watch('staged', {
      kind: 'peeks',
      texts: (staged ?? []).map((x) => ({ text: x.text, symbol: x.symbol })),
    });
    return () => void ask({ kind: 'unwatch', id: 'staged' });
  }, [staged]);
  const count = staged?.length ?? 0;
  return (
    <Pop
      title={count === 0 ? 'Staged orders: none' : `Staged orders: ${count}`}
      className={`btn num flex w-[46px] items-center justify-center gap-1.5 ${count > 0 ? 'font-bold text-focus' : 'text-quiet'}`}
      label={
        <>
          <Hand size={14} aria-hidden /> {count}
        </>
      }
    >
      <div className="w-[520px] p-3 text-[13px]">
        {count === 0 && (
          <p className="text-quiet">
            Nothing is staged. A sentence that begins with “stage” waits here until a second press sends it.
          </p>
        )}
        <ul className="grid gap-2">
          {staged?.map((x) => {
            const peeked = peeks?.find((p) => p.text === x.text && p.focus === x.symbol);
            const key = keyOf(x.text, x.symbol);
            return (
              <li
                key={x.id}
                className="grid grid-cols-[64px_1fr_auto] items-start gap-2 border-b border-line pb-2 last:border-0"
              >
                <button
                  type="button"
                  className={`num text-left font-bold ${x.symbol === focus ? 'text-focus' : ''}`}
                  onClick={() => void focusOn(x.symbol)}
                >
                  {x.symbol}
                  {key && <kbd className="ml-1 rounded border border-line px-1 text-[12px]">{key}</kbd>}
                </button>
                <span>
                  <code className="num block">{x.text.replaceAll(/\n */g, ', ')}</code>
                  <span className="num text-quiet">
                    {peeked?.problem ??
                      (peeked?.facts
                        ? `now ${peeked.facts.side} ${peeked.facts.qty} at ${px(peeked.facts.price)}`
                        : '')}
                  </span>
                </span>
                <span className="flex gap-1">
                  <button
                    type="button"
                    className="btn px-2 py-0.5 text-focus"
                    onClick={() => void act(`send staged order ${x.id}`, 'buttons', 'Staged')}
                  >
                    Send
                  </button>
                  <button
                    type="button"
                    className="btn px-2 py-0.5"
                    onClick={() => void act(`discard staged order ${x.id}`, 'buttons', 'Staged')}
                  >
                    Drop
                  </button>
                </span>
              </li>
            );
          })}
        </ul>
        {count > 1 && (
          <div className="mt-2 flex gap-2">
            <button
              type="button"
              className="btn"
              onClick={() => void act('send staged everything', 'buttons', 'Staged')}
            >
              Send all {count}
            </button>
            <button
              type="button"
              className="btn"
              onClick={() => void act('discard staged everything', 'buttons', 'Staged')}
            >
              Drop all
            </button>
          </div>
        )}
      </div>
    </Pop>
  );
}
