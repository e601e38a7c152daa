'use client';

import { useEffect, useState } from 'react';
import { explain, parseScript, printScript } from '@/core/script';
import type { SavedScript } from '@/store/settings';
import type { Peeked } from '@/worker/protocol';
import { chordText, px, usd } from '../format';
import { ask } from '../session';
import { useSettings } from '../settings';
import { chordOf, RESERVED } from '../shell/useKeys';

/** Keys: the scripts, what each would do now, its key, and whether it is on the rack. */
export function KeysView() {
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const [chosen, setChosen] = useState(scripts[0]?.id ?? '');
  const script = scripts.find((s) => s.id === chosen) ?? scripts[0];
  const change = (id: string, c: Partial<SavedScript>) => set({ scripts: scripts.map((s) => (s.id === id ? { ...s, ...c } : s)) });
  const add = () => {
    const id = crypto.randomUUID();
    set({ scripts: [...scripts, { id, name: 'New script', text: 'buy 100 at ask + 2c extended\n  stop 20c', chord: '', onRack: false }] });
    setChosen(id);
  };
  return (
    <main className="grid h-full grid-cols-[320px_1fr] gap-1.5 p-1.5">
      <section className="panel flex flex-col overflow-auto" aria-label="Scripts">
        <h1 className="heading px-3 pt-2">Scripts and their keys</h1>
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
        <section className="panel p-6 text-quiet">No scripts. “New script” makes one; write what it should do in a sentence.</section>
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
  const [peeked, setPeeked] = useState<Peeked | null>(null);
  const { script: tree, problems } = parseScript(script.text);
  useEffect(() => {
    let current = true;
    void ask({ kind: 'peek', text: script.text }).then((a) => {
      if (current && a) setPeeked(a.peeked);
    });
    return () => {
      current = false;
    };
  }, [script.text]);
  return (
    <section className="panel overflow-auto px-4 py-3" aria-label="Script">
      <div className="flex items-end gap-3">
        <label className="grow">
          <span className="heading block">Name</span>
          <input className="field mt-1 w-full" value={script.name} maxLength={40} onChange={(e) => change({ name: e.target.value || 'Unnamed' })} />
        </label>
        <ChordField chord={script.chord} others={others} change={(chord) => change({ chord })} />
        <label className="flex items-center gap-2 pb-1.5">
          <input type="checkbox" checked={script.onRack} onChange={(e) => change({ onRack: e.target.checked })} />
          on the rack
        </label>
        <button type="button" className="btn" onClick={remove}>
          Delete
        </button>
      </div>
      <div className="mt-4">
        <label className="heading block" htmlFor="script-text">
          Script
        </label>
        <textarea
          id="script-text"
          className="field num mt-1 h-44 w-full text-[15px]"
          spellCheck={false}
          value={script.text}
          aria-invalid={problems.length > 0}
          onChange={(e) => change({ text: e.target.value || ' ' })}
        />
      </div>
      {problems.length > 0 ? (
        <ul className="mt-2" data-testid="script-problems">
          {problems.map((p) => (
            <li key={`${p.code}${p.span.from}`}>
              <span className="mr-2">⚠</span>
              <code className="num mr-2 text-down underline decoration-wavy">{script.text.slice(p.span.from, p.span.to).split('\n')[0] || 'end'}</code>
              {explain(p)}
            </li>
          ))}
        </ul>
      ) : (
        <>
          {printScript(tree) !== script.text.trim() && (
            <button type="button" className="btn mt-2" onClick={() => change({ text: printScript(tree) })}>
              Tidy the text
            </button>
          )}
          <h2 className="heading mt-4">What it would do now</h2>
          {peeked && (
            <div className="mt-1">
              {peeked.problem !== null ? (
                <p>Not now: {peeked.problem}</p>
              ) : (
                <pre className="num text-[15px] whitespace-pre-wrap">{peeked.sayBack.join('\n')}</pre>
              )}
              {peeked.facts && peeked.problem === null && (
                <p className="mt-2 text-quiet">
                  {peeked.facts.qty} shares at {px(peeked.facts.price)} · cost {usd(peeked.facts.cost)}
                  {peeked.facts.risk !== null && ` · risk ${usd(peeked.facts.risk)} = ${peeked.facts.r?.toFixed(2)}R`} · costs {usd(peeked.facts.commission)}
                </p>
              )}
              {peeked.warnings.map((w) => (
                <p key={w} className="mt-1 font-semibold">
                  ⚠ {w}
                </p>
              ))}
            </div>
          )}
        </>
      )}
    </section>
  );
}

/** Records a key; says at once when it is taken or when the browser keeps it. */
function ChordField({ chord, others, change }: { chord: string; others: SavedScript[]; change: (chord: string) => void }) {
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
