'use client';

import Link from 'next/link';
import { useState } from 'react';
import { LANGUAGE_VERSION, parseScript, printScript } from '@/core/language';
import { isOnRack, onRack, usesOf } from '@/store/keys';
import type { SavedScript } from '@/store/settings';
import { SentenceRows } from '../builder/SentenceRows';
import { LiveSayBack } from '../editor/LiveSayBack';
import { ScriptEditor } from '../editor/ScriptEditor';
import { chordName } from '../hands/chords';
import { SureButton } from '../primitives/SureButton';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import { ChordField } from './ChordField';

/** One script: its name, tags and key, its sentence in words and as text, and what it would do now. */
export function ScriptPanel({
  script,
  change,
  copy,
  remove,
}: {
  script: SavedScript;
  change(c: Partial<SavedScript>): void;
  copy(): void;
  remove(): void;
}) {
  const shown = useSettings((s) => isOnRack(s, script.id));
  const uses = useSettings((s) => usesOf(s, script.id, chordName).join(', '));
  const set = useSettings((s) => s.set);
  const parsed = parseScript(script.text);
  const tidy = parsed.problems.length === 0 ? printScript(parsed) : script.text;
  return (
    <section className="panel overflow-auto px-4 py-2" aria-label="Script">
      <div className="flex items-end gap-3">
        <label className="min-w-0 grow">
          <span className="heading block">Name</span>
          <input
            className="field mt-1 w-full"
            value={script.name}
            maxLength={40}
            onChange={(e) => change({ name: e.target.value || 'Unnamed' })}
          />
        </label>
        <Tags tags={script.tags} change={(tags) => change({ tags })} />
        <ChordField script={script.id} />
        <Tick
          className="pb-1.5 whitespace-nowrap"
          on={shown}
          change={(on) => set(onRack(useSettings.getState(), script.id, on))}
        >
          on the rack
        </Tick>
        <button type="button" className="btn" onClick={copy}>
          Copy
        </button>
        <Link className="btn" href={`/rehearse?script=${encodeURIComponent(script.id)}`} prefetch={false}>
          Rehearse
        </Link>
        <SureButton
          label="Delete"
          sure={uses ? `Delete, and free ${uses}` : 'Delete for good'}
          act={remove}
        />
      </div>
      <div className="mt-3 grid grid-cols-[1fr_1fr] gap-4">
        <div>
          <h2 className="heading mb-1">In words: each opens what may stand there</h2>
          <SentenceRows
            label="Script in words"
            text={script.text}
            change={(text) => change({ text, language: LANGUAGE_VERSION })}
          />
        </div>
        <div>
          <div className="flex items-baseline gap-3">
            <h2 className="heading">As text</h2>
            {tidy !== script.text.trim() && (
              <button
                type="button"
                className="btn px-2 py-0 text-[13px]"
                onClick={() => change({ text: tidy })}
              >
                Tidy the text
              </button>
            )}
            <Link
              href="/keys/reference"
              prefetch={false}
              className="ml-auto text-[13px] text-quiet underline"
            >
              All words of the language
            </Link>
          </div>
          <div className="mt-1 h-28">
            <ScriptEditor
              label="Script"
              value={script.text}
              change={(text) => change({ text: text || ' ', language: LANGUAGE_VERSION })}
              placeholder="buy 100 at ask + 2c"
            />
          </div>
          <LiveSayBack
            text={script.text}
            small
            change={(text) => change({ text, language: LANGUAGE_VERSION })}
          />
        </div>
      </div>
    </section>
  );
}

/** Tags with commas between; taken when the field is left. */
function Tags({ tags, change }: { tags: readonly string[]; change(tags: string[]): void }) {
  const [text, setText] = useState(tags.join(', '));
  return (
    <label className="w-28">
      <span className="heading block">Tags</span>
      <input
        className="field mt-1 w-full"
        value={text}
        placeholder="in, open"
        onChange={(e) => setText(e.target.value)}
        onBlur={() => {
          const list = [...new Set(text.split(',').map((t) => t.trim().slice(0, 30)))].filter(
            (t) => t !== '',
          );
          change(list.slice(0, 12));
          setText(list.slice(0, 12).join(', '));
        }}
      />
    </label>
  );
}
