'use client';

import dynamic from 'next/dynamic';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { explain, parseScript } from '@/core/language';
import { LEVEL_NAMES } from '@/core/market';
import { px } from '../format';
import { act, useSession } from '../session';

// Only who looks at a rule in words gets the words.
const SentenceRows = dynamic(() => import('../builder/SentenceRows').then((m) => m.SentenceRows), {
  ssr: false,
});

type Kind = 'price' | 'level' | 'percent' | 'news' | 'halt' | 'rule';
const KINDS: readonly [Kind, string][] = [
  ['price', 'reaches a price'],
  ['level', 'reaches a level'],
  ['percent', 'has moved so far today'],
  ['news', 'has news'],
  ['halt', 'is halted or trades again'],
  ['rule', 'passes a rule'],
];

/** Sets an alert on one symbol; what is chosen reads as a sentence of the script language. */
export function AlertForm({ symbol, close }: { symbol: string; close(): void }) {
  const last = useSession((s) => (s.focus?.symbol === symbol ? s.focus.last : null));
  const [kind, setKind] = useState<Kind>('price');
  const [price, setPrice] = useState(() => (last === null ? '' : px(Math.round((last * 1.02) / 100) * 100)));
  const [level, setLevel] = useState<string>('premarket high');
  const [percent, setPercent] = useState('10');
  const [rule, setRule] = useState('relative volume > 5 and from vwap > 0%');
  const sentence = {
    price: `alert of ${symbol} at ${price}`,
    level: `alert of ${symbol} at ${level}`,
    percent: `alert of ${symbol} when change ${percent.startsWith('-') ? '<' : '>'} ${percent}%`,
    news: `alert of ${symbol} on news`,
    halt: `alert of ${symbol} on halt`,
    rule: `alert of ${symbol} when ${rule}`,
  }[kind];
  const { problems } = parseScript(sentence);
  const problem = problems[0];
  return (
    <Dialog.Root open onOpenChange={(o) => !o && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground/60" />
        <Dialog.Content
          className="panel fixed top-1/4 left-1/2 z-50 w-[440px] -translate-x-1/2 bg-raised p-4"
          aria-describedby={undefined}
        >
          <Dialog.Title className="font-semibold">
            Tell me when <span className="num text-focus">{symbol}</span>
          </Dialog.Title>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              if (problem) return;
              void act(sentence, 'tools', 'Alert');
              close();
            }}
          >
            <fieldset className="mt-2 grid gap-1">
              <legend className="sr-only">What about</legend>
              {KINDS.map(([k, text]) => (
                <div key={k} className="flex min-h-8 items-center gap-2">
                  <label className="flex items-center gap-2">
                    <input type="radio" name="kind" checked={kind === k} onChange={() => setKind(k)} /> {text}
                  </label>
                  {k === 'price' && kind === k && (
                    <>
                      <input
                        className="field num w-24 py-0.5"
                        aria-label="Price"
                        value={price}
                        onChange={(e) => setPrice(e.target.value)}
                      />
                      <span className="num text-[13px] text-quiet">last {px(last)}</span>
                    </>
                  )}
                  {k === 'level' && kind === k && (
                    <select
                      className="field py-0.5"
                      aria-label="Level"
                      value={level}
                      onChange={(e) => setLevel(e.target.value)}
                    >
                      {LEVEL_NAMES.map((l) => (
                        <option key={l}>{l}</option>
                      ))}
                    </select>
                  )}
                  {k === 'percent' && kind === k && (
                    <>
                      <input
                        className="field num w-16 py-0.5"
                        aria-label="Percent"
                        value={percent}
                        onChange={(e) => setPercent(e.target.value)}
                      />{' '}
                      %
                    </>
                  )}
                  {k === 'rule' && kind === k && (
                    <input
                      className="field num min-w-0 grow py-0.5 text-[13px]"
                      aria-label="Rule"
                      value={rule}
                      onChange={(e) => setRule(e.target.value)}
                    />
                  )}
                </div>
              ))}
            </fieldset>
            {kind === 'rule' && (
              <div className="mt-1">
                <SentenceRows frame="rule" label="The rule in words" text={rule} change={setRule} />
              </div>
            )}
            <p className="num mt-3 border-t border-line pt-2 text-[13px] text-condition">{sentence}</p>
            <p className="min-h-5 text-[13px]" role="status">
              {problem && `⚠ ${explain(problem)}`}
            </p>
            <div className="mt-2 flex justify-end gap-2">
              <button type="button" className="btn" onClick={close}>
                Leave it
              </button>
              <button type="submit" className="btn font-semibold" disabled={problem !== undefined}>
                Set the alert
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
