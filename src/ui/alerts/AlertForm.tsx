'use client';

import dynamic from 'next/dynamic';
import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { explain, LEVELS, parseScript } from '@/core/language';
import { act, useSession } from '../client';
import { px } from '../format';
import { Choice } from '../primitives/Choice';
import { OneOf } from '../primitives/OneOf';

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
  /** What else is to be said of the kind that is chosen. */
  const about: Partial<Record<Kind, ReactNode>> = {
    price: (
      <>
        <input
          className="field num w-24 py-0.5"
          aria-label="Price"
          value={price}
          onChange={(e) => setPrice(e.target.value)}
        />
        <span className="num text-[13px] text-quiet">last {px(last)}</span>
      </>
    ),
    level: (
      <Choice
        label="Level"
        className="w-52 py-0.5"
        value={level}
        options={LEVELS.map((l) => [l.text, l.text] as const)}
        change={setLevel}
      />
    ),
    percent: (
      <>
        <input
          className="field num w-16 py-0.5"
          aria-label="Percent"
          value={percent}
          onChange={(e) => setPercent(e.target.value)}
        />{' '}
        %
      </>
    ),
    rule: (
      <input
        className="field num min-w-0 grow py-0.5 text-[13px]"
        aria-label="Rule"
        value={rule}
        onChange={(e) => setRule(e.target.value)}
      />
    ),
  };
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
              <OneOf<Kind>
                label="What about"
                className="grid gap-1 [&>span]:min-h-8"
                value={kind}
                options={KINDS.map(([k, text]) => [k, text, kind === k ? about[k] : undefined] as const)}
                change={setKind}
              />
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
