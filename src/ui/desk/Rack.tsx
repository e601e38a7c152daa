'use client';

import { useEffect, useMemo } from 'react';
import type { Peeked } from '@/worker/protocol';
import { chordText, px } from '../format';
import { act, ask, peekAt, useSession, watch } from '../session';
import { useSettings } from '../settings';

/** The rack: the scripts as buttons, each with its key and what it would do at this moment. */
export function Rack() {
  const scripts = useSettings((s) => s.scripts);
  const keysOn = useSettings((s) => s.keysOn);
  const peeks = useSession((s) => s.rack);
  const onRack = useMemo(() => scripts.filter((s) => s.onRack), [scripts]);
  useEffect(() => {
    void watch('rack', { kind: 'peeks', texts: onRack.map((s) => ({ text: s.text, symbol: null })) });
    return () => void ask({ kind: 'unwatch', id: 'rack' });
  }, [onRack]);
  if (onRack.length === 0)
    return (
      <section className="panel px-3 py-3 text-quiet" aria-label="Rack">
        The rack is empty. In Keys, tick “on the rack” for a script.
      </section>
    );
  return (
    <section className="panel flex gap-1.5 overflow-x-auto p-1.5" aria-label="Rack">
      {onRack.map((s) => {
        const peeked = peeks?.find((p) => p.text === s.text);
        return (
          <button
            key={s.id}
            type="button"
            className={`btn min-w-0 flex-1 px-2 py-1 text-left ${peeked?.problem ? 'border-dashed' : ''}`}
            title={peeked?.problem ?? undefined}
            onClick={() => void act(s.text, 'buttons', s.name)}
            onMouseEnter={() => useSession.getState().sayBack.kind === 'peek' && void peekAt(s.text, s.name)}
          >
            <span className="flex items-baseline gap-2">
              {s.chord && (
                <kbd
                  className={`num rounded border px-1.5 font-bold ${keysOn ? 'border-focus text-focus' : 'border-line text-quiet line-through'}`}
                >
                  {chordText(s.chord)}
                </kbd>
              )}
              <span className="truncate font-semibold">{s.name}</span>
            </span>
            <span className="num mt-0.5 block truncate text-[13px] text-quiet">{short(peeked)}</span>
          </button>
        );
      })}
    </section>
  );
}

const WHY_NOT: Record<NonNullable<Peeked['code']>, string> = {
  'no focus': 'no focus',
  'unknown symbol': 'unknown symbol',
  'unknown price': 'no such price now',
  'no pointer': 'point at the chart',
  'no level': 'no such level',
  'no plan': 'no such plan',
  'other account': 'another account’s order',
  'no ticket': 'the ticket has no size',
  'risk ticket': 'the ticket is a risk',
  'no measure': 'no distance to measure by',
  'no position': 'no position',
  'nothing to close': 'no position',
  'wrong way': 'other side is open',
  'stop side': 'stop would go at once',
  'limit side': 'limit on wrong side',
  'size zero': 'less than a share',
  'unpriced order': 'it goes at market',
  'wrong side of last': 'stop on the wrong side',
  'wrong way of stop': 'stop on the wrong side',
  'exit side': 'exit on the wrong side',
  'at once': 'target would fill at once',
  'no room': 'too far away',
  'below zero': 'price below zero',
  'after the day': 'after the day’s end',
  'other side': 'another side',
  'nothing staged': 'nothing is staged',
  'no account': 'no such account',
  'plan hours': 'the plan has other hours',
  'most money': 'guard on size',
  'open risk': 'guard on open risk',
  'pair against': 'both could fill',
  locked: 'locked: daily loss',
  'too many orders': 'guard on speed',
  duplicate: 'sent a moment ago',
  blocked: 'blocked in Setup',
  'no shorts': 'cash account',
  'needs locate': 'locate shares first',
  'locate size': 'too many to locate',
  'no locate needed': 'no locate needed',
  'not in a pair': 'not in a pair',
  'works backwards': 'works the wrong way',
  'true already': 'true already',
  'waiting over': 'its end is over',
  'dead when it fires': 'would be over before it fires',
  'dead when it wakes': 'would be over before it wakes',
  'no such condition': 'no such condition',
  'date over': 'date is over',
  'time over': 'time is over',
  'which of group': 'which of its group?',
  'nothing left': 'has filled already',
  'plan size': 'size follows the plan',
  'buying power': 'over buying power',
  'most shares': 'over the size guard',
  collar: 'outside the collar',
  'market hours': 'regular session only',
  'no such order': 'nothing works',
  'no stop': 'no stop to move',
  'entry against': 'other side is open',
  'auction time': 'too late for the auction',
  midpoint: 'no midpoint now',
  restricted: 'short sales restricted',
  'no borrow': 'no shares to borrow',
  'at last': 'it stands there now',
  quantity: 'not a number of shares',
  'off tick': 'not on a tick',
  'too late': 'ended already',
};

/** The one number that matters for the next press; or in a word why it cannot go. */
function short(p: Peeked | undefined): string {
  if (!p) return '…';
  if (p.problem !== null) return p.code ? WHY_NOT[p.code] : 'has a mistake: see Keys';
  if (p.facts) return `${p.facts.side} ${p.facts.qty} at ${px(p.facts.price)}`;
  return (p.sayBack[0] ?? '').replace(/^(move stop|cancel symbol|flatten)( of [A-Z]+)? ?/, '');
}
