'use client';

import { useState } from 'react';
import { LANGUAGE_VERSION } from '@/core/language';
import { withoutScript } from '@/store/keys';
import type { SavedScript } from '@/store/settings';
import { useSettings } from '../settings';
import { KeyboardPicture } from './KeyboardPicture';
import { ScriptPanel } from './ScriptPanel';
import { Scripts } from './Scripts';

/** Keys: the scripts, what each would do now, and the keyboard with what is bound. */
export function KeysView() {
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const [chosen, setChosen] = useState(scripts[0]?.id ?? '');
  const script = scripts.find((s) => s.id === chosen) ?? scripts[0];
  const change = (id: string, c: Partial<SavedScript>) =>
    set({ scripts: useSettings.getState().scripts.map((s) => (s.id === id ? { ...s, ...c } : s)) });
  /** Puts a script among the others and opens it. */
  const add = (made: Pick<SavedScript, 'name' | 'text' | 'tags'>) => {
    const id = crypto.randomUUID();
    set({
      scripts: [...useSettings.getState().scripts, { id, language: LANGUAGE_VERSION, ...made }],
    });
    setChosen(id);
  };
  return (
    <main className="grid h-full grid-cols-[300px_1fr] grid-rows-[1fr_auto] gap-1.5 p-1.5">
      <Scripts chosen={script?.id ?? ''} choose={setChosen} add={add} />
      {script ? (
        <ScriptPanel
          key={script.id}
          script={script}
          change={(c) => change(script.id, c)}
          copy={() =>
            add({ name: `${script.name}, copy`.slice(0, 40), text: script.text, tags: script.tags })
          }
          remove={() => set(withoutScript(useSettings.getState(), script.id))}
        />
      ) : (
        <section className="panel p-6 text-quiet">
          No scripts. “New” makes one by choosing what it should do; the library has ready ones to take a copy
          of.
        </section>
      )}
      <div className="col-span-2">
        <KeyboardPicture chosen={script?.id ?? ''} choose={setChosen} />
      </div>
    </main>
  );
}
