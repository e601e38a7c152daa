'use client';

import { useState } from 'react';
import { conditionProblem } from '../builder/frames';
import { SentenceRows } from '../builder/SentenceRows';
import { act } from '../client';

/** What a staged order is to wait for, as text and in words. */
export function StagedWait({ id, first, done }: { id: number; first: string; done(): void }) {
  const [text, setText] = useState(first);
  const problem = conditionProblem(text);
  return (
    <form
      className="grid w-[400px] gap-2 p-3 text-[13px]"
      onSubmit={(e) => {
        e.preventDefault();
        if (problem === null)
          void act(`when ${text}: send staged order ${id}`, 'buttons', 'Staged').then(
            (o) => o === 'sent' && done(),
          );
      }}
    >
      <label>
        <span className="heading block">It is sent when</span>
        <input
          className="field num mt-0.5 w-full"
          value={text}
          aria-invalid={problem !== null}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      {problem !== null && <p>⚠ {problem}</p>}
      <SentenceRows frame="condition" label="The condition in words" text={text} change={setText} />
      <button type="submit" className="btn justify-self-start" disabled={problem !== null}>
        Let it wait
      </button>
    </form>
  );
}
