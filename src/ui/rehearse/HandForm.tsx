'use client';

import { Plus, X } from 'lucide-react';
import { conditionProblem } from '../builder/frames';
import { SentenceRows } from '../builder/SentenceRows';
import { ScriptEditor } from '../editor/ScriptEditor';
import { Choice } from '../primitives/Choice';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';
import { type Draft, type DraftKey, FIRST_KEY } from './draft';
import { changeDraft } from './useDraft';

const MANAGE: DraftKey = { when: 'gain >= 1R', script: 'move stop to breakeven', most: '9' };

/** The keys of one hand: what each does, and when it is pressed. */
export function HandForm({ which, draft }: { which: 'first' | 'second'; draft: Draft }) {
  const { keys } = draft[which];
  const letter = which === 'first' ? 'A' : 'B';
  const set = (next: DraftKey[]) => changeDraft({ [which]: { keys: next } });
  return (
    <fieldset aria-label={`Hand ${letter}`}>
      <legend className="flex w-full items-center gap-2">
        <span className="heading">
          {draft.compare && <b className="mr-1 text-text">{letter}</b>}
          {draft.compare && which === 'second' ? 'The same, changed' : 'Keys that are pressed'}
        </span>
        {which === 'second' && (
          <button
            type="button"
            className="btn ml-auto px-2 py-0 text-[13px]"
            onClick={() => changeDraft({ second: draft.first })}
          >
            Take A again
          </button>
        )}
      </legend>
      {keys.map((key, k) => (
        <KeyForm
          key={k}
          name={`${letter}${k + 1}`}
          value={key}
          change={(c) => set(keys.map((x, n) => (n === k ? { ...x, ...c } : x)))}
          remove={keys.length > 1 ? () => set(keys.filter((_, n) => n !== k)) : null}
        />
      ))}
      {keys.length < 6 && (
        <button
          type="button"
          className="mt-1 flex items-center gap-1 text-[13px] text-quiet underline"
          onClick={() => set([...keys, keys.length === 0 ? FIRST_KEY : MANAGE])}
        >
          <Plus size={13} aria-hidden /> another key
        </button>
      )}
    </fieldset>
  );
}

function KeyForm({
  name,
  value,
  change,
  remove,
}: {
  name: string;
  value: DraftKey;
  change(c: Partial<DraftKey>): void;
  remove: (() => void) | null;
}) {
  const problem = conditionProblem(value.when);
  return (
    <div className="mt-1 border-line border-l-2 pl-2">
      <div className="flex items-center gap-2">
        <span className="shrink-0 text-[13px] text-quiet">pressed when</span>
        <input
          className="field num min-w-0 grow text-[13px]"
          aria-label={`${name} is pressed when`}
          spellCheck={false}
          value={value.when}
          aria-invalid={problem !== null}
          onChange={(e) => change({ when: e.target.value })}
        />
        <Pop title={`${name}: the condition in words`} label="in words">
          <div className="w-[420px] p-3">
            <p className="mb-2 text-[13px] text-quiet">
              It is pressed each time this becomes true. A way in is pressed only while nothing is held, every
              other key only while something is.
            </p>
            <SentenceRows
              frame="condition"
              label={`${name}: condition in words`}
              text={value.when}
              change={(when) => change({ when })}
            />
          </div>
        </Pop>
        {remove && (
          <button
            type="button"
            className="btn px-1 py-0.5"
            aria-label={`Remove key ${name}`}
            onClick={remove}
          >
            <X size={14} aria-hidden />
          </button>
        )}
      </div>
      {problem !== null && <p className="text-[13px]">⚠ {problem}</p>}
      <div className="mt-1 h-[104px]">
        <ScriptEditor
          later
          small
          label={`${name} does`}
          value={value.script}
          change={(script) => change({ script })}
          placeholder="buy risk 1R at usual through"
        />
      </div>
      <div className="mt-1 flex items-center gap-2 text-[13px]">
        <TakeScript name={name} take={(script) => change({ script })} />
        <Pop title={`${name}: the script in words`} label="in words">
          <div className="w-[460px] p-3">
            <SentenceRows
              label={`${name}: script in words`}
              text={value.script}
              change={(script) => change({ script })}
            />
          </div>
        </Pop>
        <label className="ml-auto flex items-center gap-1.5">
          at most
          <input
            className="field num w-12"
            aria-label={`${name} at most so often a day`}
            value={value.most}
            onChange={(e) => change({ most: e.target.value })}
          />
          a day
        </label>
      </div>
    </div>
  );
}

/** Puts one of the trader's scripts into the field. */
function TakeScript({ name, take }: { name: string; take(text: string): void }) {
  const scripts = useSettings((s) => s.scripts);
  return (
    <Choice
      label={`${name}: take a script`}
      className="w-40 text-[13px]"
      value=""
      options={[['', 'take one of yours…'], ...scripts.map((s) => [s.id, s.name] as const)]}
      change={(id) => {
        const script = scripts.find((s) => s.id === id);
        if (script) take(script.text);
      }}
    />
  );
}
