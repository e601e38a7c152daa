'use client';

import Link from 'next/link';
import { useEffect, useState } from 'react';
import { LANGUAGE_VERSION, parseScript, printScript } from '@/core/language';
import type { SavedScript } from '@/store/settings';
import { LiveSayBack } from '../editor/LiveSayBack';
import { ScriptEditor } from '../editor/ScriptEditor';
import { chordText } from '../format';
import { useSettings } from '../settings';
import { chordOf, RESERVED } from '../shell/useKeys';

/** Keys: the scripts, what each would do now, its key, and whether it is on the rack. */
export function KeysView() {
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const [chosen, setChosen] = useState(scripts[0]?.id ?? '');
  const script = scripts.find((s) => s.id === chosen) ?? scripts[0];
  const change = (id: string, c: Partial<SavedScript>) =>
    set({ scripts: scripts.map((s) => (s.id === id ? { ...s, ...c } : s)) });
  const add = () => {
    const id = crypto.randomUUID();
    set({
      scripts: [
        ...scripts,
        {
          id,
          name: 'New script',
          text: 'buy 100 at ask + 2c extended\n  stop 20c',
          chord: '',
          onRack: false,
          language: LANGUAGE_VERSION,
        },
      ],
    });
    setChosen(id);
  };
  return (
    <main className="grid h-full grid-cols-[320px_1fr] gap-1.5 p-1.5">
      <section className="panel flex flex-col overflow-auto" aria-label="Scripts">
        <h1 className="heading px-3 pt-2">Scripts and their keys</h1>
        <Retired />
        <ul className="grow">
          {scripts.map((s) => (
            <li key={s.id}>
              <button
                type="button"
                aria-pressed={s.id === script?.id}
                onClick={() => setChosen(s.id)}
                className={`flex w-full items-baseline gap-3 px-3 py-1.5 text-left hover:bg-raised ${s.id === script?.id ? 'bg-raised' : ''}`}
              >
                <kbd className="num w-14 shrink-0 font-bold text-focus">{chordText(s.chord) || '–'}</kbd>
                <span className="grow">{s.name}</span>
                <span className="text-[12px] text-quiet">{s.onRack ? 'on the rack' : ''}</span>
              </button>
            </li>
          ))}
        </ul>
        <button type="button" className="btn m-2" onClick={add}>
          New script
        </button>
      </section>
      {script ? (
        <Editor
          key={script.id}
          script={script}
          others={scripts.filter((s) => s.id !== script.id)}
          change={(c) => change(script.id, c)}
          remove={() => set({ scripts: scripts.filter((s) => s.id !== script.id) })}
        />
      ) : (
        <section className="panel p-6 text-quiet">
          No scripts. “New script” makes one; write what it should do in a sentence.
        </section>
      )}
    </main>
  );
}

function Editor({
  script,
  others,
  change,
  remove,
}: {
  script: SavedScript;
  others: SavedScript[];
  change: (c: Partial<SavedScript>) => void;
  remove: () => void;
}) {
  const parsed = parseScript(script.text);
  const tidy = parsed.problems.length === 0 ? printScript(parsed) : script.text;
  return (
    <section className="panel overflow-auto px-4 py-3" aria-label="Script">
      <div className="flex items-end gap-3">
        <label className="grow">
          <span className="heading block">Name</span>
          <input
            className="field mt-1 w-full"
            value={script.name}
            maxLength={40}
            onChange={(e) => change({ name: e.target.value || 'Unnamed' })}
          />
        </label>
        <ChordField chord={script.chord} others={others} change={(chord) => change({ chord })} />
        <label className="flex items-center gap-2 pb-1.5">
          <input
            type="checkbox"
            checked={script.onRack}
            onChange={(e) => change({ onRack: e.target.checked })}
          />
          on the rack
        </label>
        <button type="button" className="btn" onClick={remove}>
          Delete
        </button>
      </div>
      <div className="mt-4 flex items-baseline gap-3">
        <h2 className="heading">Script</h2>
        <Link href="/keys/reference" prefetch={false} className="ml-auto text-[13px] text-quiet underline">
          All words of the language
        </Link>
      </div>
      <div className="mt-1 h-44">
        <ScriptEditor
          label="Script"
          value={script.text}
          change={(text) => change({ text: text || ' ', language: LANGUAGE_VERSION })}
          placeholder="buy 100 at ask + 2c"
        />
      </div>
      <LiveSayBack text={script.text} />
      {tidy !== script.text.trim() && (
        <button type="button" className="btn mt-2" onClick={() => change({ text: tidy })}>
          Tidy the text
        </button>
      )}
    </section>
  );
}

/** Scripts that are written in forms of an earlier version: the same anew, for one yes. */
function Retired() {
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const old = scripts
    .filter((s) => s.language < LANGUAGE_VERSION)
    .map((s) => ({ script: s, parsed: parseScript(s.text) }));
  const changed = old.filter(({ parsed }) => parsed.retired || parsed.problems.length > 0);
  useEffect(() => {
    // What means the same in both versions needs no yes.
    if (old.length > 0 && changed.length === 0)
      set({ scripts: scripts.map((s) => ({ ...s, language: LANGUAGE_VERSION })) });
  }, [old.length, changed.length, scripts, set]);
  if (changed.length === 0) return null;
  const rewrite = () =>
    set({
      scripts: scripts.map((s) => {
        const parsed = parseScript(s.text);
        return {
          ...s,
          language: LANGUAGE_VERSION,
          text: parsed.problems.length === 0 ? printScript(parsed) : s.text,
        };
      }),
    });
  return (
    <section className="border-b border-line px-3 py-2 text-[13px]" aria-label="Earlier forms">
      <p>
        The language has new words for these. The new text means the same; what cannot be told is left for you
        to mend.
      </p>
      <ul className="my-1">
        {changed.map(({ script, parsed }) => (
          <li key={script.id} className="num">
            <b className="font-sans">{script.name}</b>:{' '}
            <s className="text-quiet">{script.text.replaceAll('\n', ', ')}</s>{' '}
            {parsed.problems.length === 0 ? printScript(parsed).replaceAll('\n', ', ') : '⚠ needs a look'}
          </li>
        ))}
      </ul>
      <button type="button" className="btn" onClick={rewrite}>
        Write them anew
      </button>
    </section>
  );
}

/** Records a key; says at once when it is taken or when the browser keeps it. */
function ChordField({
  chord,
  others,
  change,
}: {
  chord: string;
  others: SavedScript[];
  change: (chord: string) => void;
}) {
  const [listening, setListening] = useState(false);
  const [note, setNote] = useState('');
  return (
    <span>
      <span className="heading block">Key {note && <span className="text-text">{note}</span>}</span>
      <button
        type="button"
        className="btn num mt-1 min-w-32"
        data-on={listening}
        onClick={() => {
          setListening(true);
          setNote('');
        }}
        onBlur={() => setListening(false)}
        onKeyDown={(e) => {
          if (!listening) return;
          e.preventDefault();
          e.stopPropagation();
          const pressed = chordOf(e.nativeEvent);
          if (!pressed) return;
          const owner = others.find((s) => s.chord === pressed);
          if (pressed === 'Escape') setNote('');
          else if (pressed === 'Backspace' || pressed === 'Delete') change('');
          else if (RESERVED.has(pressed)) setNote(`⚠ the browser keeps ${chordText(pressed)}`);
          else if (pressed === 'Enter' || pressed === 'Tab') setNote(`⚠ ${pressed} is needed by the app`);
          else if (pressed.startsWith('Shift+')) setNote('⚠ Shift peeks; take another key');
          else if (owner) setNote(`⚠ ${chordText(pressed)} is “${owner.name}”`);
          else change(pressed);
          setListening(false);
        }}
      >
        {listening ? 'press a key…' : chordText(chord) || 'record a key'}
      </button>
    </span>
  );
}
